# name: Down the kit in quavers
# kind: fill
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
snare 1 1&
high 2 2&
mid 3 3&
floor 4 4&
