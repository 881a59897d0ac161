title Coal Yard Shuffle
tempo crotchet = 110
meter 4/4
bar 1
section A
hat 1 1l 2 2l 3 3l 4 4l
snare 2 4
kick 1 3
bar 2 as 1
kick 1 2l 3
bar 3 as 1
bar 4
hat 1 1l 2 2l 3 3l
snare 2, 4 4t 4l
kick 1 3
bar 5
section B
ride 1 1l 2 2l 3 3l 4 4l
snare 2 4
kick 1 1l 3 3l
foot 2 4
bar 6 as 5
bar 7 as 5
snare 2 4, ghost 1t 3t
bar 8
snare triplets 1-2
high 3 3t 3l
floor 4 4t 4l
kick 1 3
bar 9
crash 1
kick 1
