# name: The last two beats
# kind: fill
# asks: fill all on the snare
# target: 96
meter 4/4
tempo crotchet = 70
bar 1
hat 8ths
snare 2 4
kick 1 3
bar 2
hat 8ths 1-2
snare 2, 3 3& 4 4&
kick 1
