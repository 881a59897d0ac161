# name: Flam and kick
# kind: fill
# asks: fill a flam on each beat
# target: 90
meter 4/4
tempo crotchet = 66
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
snare flam 1 3
kick 2 4
