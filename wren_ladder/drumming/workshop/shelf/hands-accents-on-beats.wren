# name: Accents on the beats
# kind: hands
# target: 92
meter 4/4
tempo crotchet = 60
bar 1
snare 16ths, accent 1 2 3 4
hands RLRLRLRLRLRLRLRL
