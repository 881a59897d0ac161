title Weir Lane
meter 4/4
tempo crotchet = 96

bar 1
section A Lane
crash 1
hat 8ths, no 1
snare 2 4
kick 1 3 3&
bar 2
hat 8ths
snare 2 4
kick 1 3 3&
bar 3 as 2
bar 4
hat 8ths 1-3
snare 2, 16ths 4
kick 1 3 3&
bars 5-7 as 1-3
bar 8
hat 8ths 1-2
snare 2
high 3 3&
kick 1
floor 4 4&
bar 9
section B Water
ride 8ths
snare accent 2 4
kick 1 2& 3
bar 10
ride 8ths
snare accent 2 4, ghost 3a
kick 1 2& 3
bars 11-12 as 9-10
bars 13-15 as 9-11
bar 16
crash 1
kick 1
