# name: Into three
# kind: groove
# asks: kick 1 2& 3
# target: 104
meter 4/4
tempo crotchet = 72
bar 1
hat 8ths
snare 2 4
kick 1 2& 3
