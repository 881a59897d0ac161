# name: A ghost after two
# kind: groove
# target: 96
meter 4/4
tempo crotchet = 72
bar 1
hat 8ths
snare 2 4, ghost 2a
kick 1 3
