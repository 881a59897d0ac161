title Iron Gate Fives
tempo crotchet = 72
meter 4/4
bar 1
section A
snare 16ths, accent 1 2e 3&
kick quarters
foot 2 4
bar 2
snare 1 1+1/5 1+2/5 1+3/5 1+4/5 2 3 3+1/5 3+2/5 3+3/5 3+4/5 4
kick 1 3
bar 3
snare sextuplets 1, sextuplets 3, 2 4
kick 2 4
bar 4
meter 2/4
snare accent 1 2a, 1e& 2
bar 5
meter 4/4
tempo crotchet = 108
ride 8ths
snare 2 4
kick 1 2& 3
foot offbeats
bar 6 as 5
bar 7
snare flam accent 1 2 3 4, 1& 2& 3& 4&
high 1a 3a
floor 2a 4a
bar 8
crash 1
kick 1
