# name: Kick twice
# kind: feet
# target: 92
meter 4/4
tempo crotchet = 60
bar 1
kick 1 1& 3 3&
hat foot 2 4
