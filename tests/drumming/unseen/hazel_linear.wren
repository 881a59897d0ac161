title Hazel Linear
tempo crotchet = 92
meter 4/4
bar 1
section A
hat 1 1& 2& 3 3& 4&
snare accent 2 4, ghost 1a 3a
kick 1e 2a 3e 4a
bar 2 as 1
bar 3
hat 1 1e 2 2e 3 3e 4
snare accent 2&, ghost 1& 3&
kick 1a 2a 3a 4& 4a
bar 4
snare 1 1e 2 2e 3
high 1& 2&
floor 3e 3&
kick 1a 2a 3a 4e
crash 4
bar 5
section B
ride 1 1& 2 2& 3 3& 4 4&
snare accent 2 4, ghost 1e 2a 3e 4a
kick 1a 3& 
bar 6 as 5
bar 7
snare sextuplets 1-2
high 3 3+1/6 3t
floor 3& 3l 3+5/6
kick 4
crash 4
bar 8
hat 8ths
snare 2 4
kick 1 3
