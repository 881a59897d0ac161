# name: The first beat
# kind: groove
# target: 80
meter 4/4
tempo crotchet = 60
bar 1
hat quarters
snare 2 4
kick 1 3
