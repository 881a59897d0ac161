# name: The skip
# kind: feet
# asks: kick 1 1a 3
# target: 72
meter 4/4
tempo crotchet = 60
bar 1
hat 8ths
kick 1 1a 3 3a
