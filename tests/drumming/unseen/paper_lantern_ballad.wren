title Paper Lantern Ballad
tempo dotted crotchet = 56
meter 6/8
bar 1
section A
hat 8ths
snare 4
kick 1
bar 2 as 1
kick 1 3
bar 3 as 1
bar 4
hat 8ths 1-3
snare 4 5 6
kick 1
bar 5
section B
ride 8ths
snare 4
kick 1 6
bar 6 as 5
kick 1 3 6
bar 7 as 5
bar 8
snare 1 3, 4 5 6
floor 2
kick 1 4
bar 9
hat 16ths
snare 4
kick 1 6
bar 10 as 9
bar 11
snare 1* 2* 3*
high 4*
floor 5* 6*
kick 1 4
bar 12
crash 1
kick 1
