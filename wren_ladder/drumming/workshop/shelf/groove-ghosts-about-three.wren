# name: Ghosts about three
# kind: groove
# target: 92
meter 4/4
tempo crotchet = 72
bar 1
hat 8ths
snare 2 4, ghost 2a 3e
kick 1 3&
