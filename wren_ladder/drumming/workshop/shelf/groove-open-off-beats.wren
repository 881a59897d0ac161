# name: Opened on every off-beat
# kind: groove
# target: 108
meter 4/4
tempo crotchet = 76
bar 1
hat 1 2 3 4, open 1& 2& 3& 4&
snare 2 4
kick 1 2 3 4
