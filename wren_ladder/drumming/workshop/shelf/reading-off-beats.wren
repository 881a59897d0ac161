# name: Off-beats
# kind: reading
# target: 92
meter 4/4
tempo crotchet = 60
bar 1
snare 1 2& 3 4&
bar 2
snare 1& 2 3& 4
