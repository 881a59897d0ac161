# name: Hat on the off-beats
# kind: groove
# grade: 2
# target: 104
meter 4/4
tempo crotchet = 70
bar 1
hat 1& 2& 3& 4&
snare 2 4
kick 1 2 3 4
