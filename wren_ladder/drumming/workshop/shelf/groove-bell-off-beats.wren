# name: Bell on the off-beats
# kind: groove
# target: 100
meter 4/4
tempo crotchet = 72
bar 1
bell 1& 2& 3& 4&
snare 2 4
kick 1 2& 3
