# name: Kick on the beats
# kind: feet
# grade: 0
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
kick 1 2 3 4
