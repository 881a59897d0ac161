# name: Kick on the beats
# kind: feet
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
kick 1 2 3 4
