# name: Four on the floor
# kind: groove
# asks: kick 1 2 3 4
# target: 110
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 2 3 4
