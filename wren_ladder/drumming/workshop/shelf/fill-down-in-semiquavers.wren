# name: Four on each drum
# kind: fill
# target: 84
meter 4/4
tempo crotchet = 60
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
snare 16ths 1
high 16ths 2
mid 16ths 3
floor 16ths 4
