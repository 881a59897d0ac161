# name: Crotchets and rests
# kind: reading
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
snare 1 2 4
bar 2
snare 1 3
