# name: Hat on the off-beats
# kind: groove
# asks: hat on the off-beats only
# target: 104
meter 4/4
tempo crotchet = 70
bar 1
hat 1& 2& 3& 4&
snare 2 4
kick 1 2 3 4
