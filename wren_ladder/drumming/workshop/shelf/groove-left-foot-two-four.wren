# name: Left foot on 2 and 4
# kind: groove
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
ride 8ths
snare 2 4
kick 1 3
hat foot 2 4
