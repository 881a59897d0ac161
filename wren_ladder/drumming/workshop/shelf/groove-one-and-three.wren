# name: Hat in quavers, one and three
# kind: groove
# asks: hat in quavers; kick 1 3
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
