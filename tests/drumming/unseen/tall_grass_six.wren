title Tall Grass Six
tempo dotted crotchet = 84
meter 12/8
bar 1
section A
hat 8ths
snare 4 10
kick 1 7
bar 2 as 1
kick 1 6 7
bar 3 as 1
kick 1 6 7 12
bar 4
hat 8ths 1-6
snare 4 7 8 9
high 10 11
floor 12
kick 1 7
bar 5
section B
ride 1 3 4 6 7 9 10 12
snare 4 10, ghost 2 5 8 11
kick 1 6 7
foot 4 10
bar 6 as 5
bar 7
ride 1 4 7 10
snare 4 10
kick 1 6 7
foot 4 10
bar 8
crash 1
kick 1
