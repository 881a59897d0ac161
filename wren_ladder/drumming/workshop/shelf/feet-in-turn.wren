# name: Feet in turn
# kind: feet
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
kick 1 3
hat foot 2 4
