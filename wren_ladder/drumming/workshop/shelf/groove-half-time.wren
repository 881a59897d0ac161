# name: Half-time
# kind: groove
# grade: 2
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 3
kick 1
