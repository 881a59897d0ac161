# name: Four on the snare
# kind: fill
# asks: fill all on the snare
# target: 96
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
snare 1 2 3 4
kick 1
