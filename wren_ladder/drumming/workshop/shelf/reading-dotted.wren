# name: Dotted quavers
# kind: reading
# target: 84
meter 4/4
tempo crotchet = 56
bar 1
snare 1 1a 2 2a 3 4
bar 2
snare 1 2 3 3a 4 4a
