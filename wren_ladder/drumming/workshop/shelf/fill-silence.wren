# name: Silence is a fill
# kind: fill
# asks: fill with space, one note a beat
# target: 100
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
snare 1 2
kick 1
