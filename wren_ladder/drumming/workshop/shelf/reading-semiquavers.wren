# name: Four semiquavers
# kind: reading
# target: 84
meter 4/4
tempo crotchet = 56
bar 1
snare 1 16ths 2 3 4
bar 2
snare 16ths 1 2 16ths 3 4
