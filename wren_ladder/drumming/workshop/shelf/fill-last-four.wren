# name: Four semiquavers into one
# kind: fill
# target: 90
meter 4/4
tempo crotchet = 66
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
hat 8ths 1-3
snare 2, 16ths 4
kick 1 3
