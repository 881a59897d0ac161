# name: Half-time
# kind: groove
# asks: hat in quavers
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 3
kick 1
