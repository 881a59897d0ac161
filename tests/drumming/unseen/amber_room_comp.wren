title Amber Room
tempo crotchet = 176
meter 4/4
bar 1
section A
swing 8ths
ride 1 2 2& 3 4 4&
foot 2 4
snare 4&
bar 2 as 1
snare 1 2&
kick 3&
bar 3 as 1
snare 3
kick 1& 4&
bar 4
snare 1 1t 1l 2 3 3t 3l 4
kick 2 4
foot 2 4
bar 5
section B Solo
snare accent 1 2& 4, 1& 2 3 3& 4&
kick quarters
foot 2 4
bar 6
snare 1 1l 2l 3 4
high 2 3l
floor 4l
foot 2 4
bar 7 as 1
bar 8
meter 3/4
ride 1 2 2& 3
foot 2 3
snare 2&
bar 9
ride 1 2 2& 3
foot 2 3
kick 1 3&
bar 10
crash 3&
kick 3&
