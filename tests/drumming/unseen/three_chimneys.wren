title Three Chimneys
tempo crotchet = 116
meter 7/8
bar 1
section A
hat 8ths
snare 3 7
kick 1 5
bar 2 as 1
kick 1 4 5
bar 3 as 1
bar 4
hat 8ths 1-4
snare 3, 5 6 7
kick 1
bar 5
section B
ride 8ths, bell 1 3 5
snare 5
kick 1 3
bar 6 as 5
bar 7 as 5
kick 1 3 7
bar 8
meter 4/4
snare 16ths 1-2
high 3*
floor 4*
kick quarters
bar 9
meter 7/8
crash 1
hat 2 3 4 5 6 7
snare 3 7
kick 1 5
bar 10
crash 1
kick 1
