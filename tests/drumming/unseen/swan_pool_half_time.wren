title Swan Pool Half-Time
tempo crotchet = 84
meter 4/4
bar 1
section A
hat 1 1l 2 2l 3 3l 4 4l
snare 3, ghost 1t 2t 4t
kick 1 2l
bar 2 as 1
kick 1 4l
bar 3 as 1
bar 4 as 1
hat 1 1l 2 2l 3 3l 4, open 4l
bar 5 as 1
bar 6 as 2
bar 7 as 1
snare 3 3t, ghost 1t 2t 4t
bar 8
hat 1 1l 2 2l
snare 3 3l 4t 4l, ghost 1t 2t
kick 1 3t 4
