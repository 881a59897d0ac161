# name: Push home
# kind: groove
# asks: kick 1 3 4a
# target: 96
meter 4/4
tempo crotchet = 72
bar 1
hat 8ths
snare 2 4
kick 1 3 4a
