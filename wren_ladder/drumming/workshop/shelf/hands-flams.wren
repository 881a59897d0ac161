# name: Flams from both hands
# kind: hands
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
snare flam 1 2 3 4
hands RLRL
