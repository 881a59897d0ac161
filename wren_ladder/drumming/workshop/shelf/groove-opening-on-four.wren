# name: Opening on 4 and
# kind: groove
# target: 104
meter 4/4
tempo crotchet = 72
bar 1
hat 8ths, open 4&
snare 2 4
kick 1 3
