# name: Onto the ride
# kind: groove
# asks: ride in quavers
# target: 104
meter 4/4
tempo crotchet = 72
bar 1
ride 8ths
snare 2 4
kick 1 3
