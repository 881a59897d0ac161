title Gull and Anchor
tempo crotchet = 160
meter 4/4
bar 1
section A
crash 1
hat 1& 2 2& 3 3& 4 4&
snare 2 4
kick 1 1& 3
bar 2
hat 8ths
snare 2 4
kick 1 1& 3
bar 3 as 2
kick 1 1& 3 3&
bar 4
snare 16ths
kick 1 2 3 4
bar 5
section B
crash 1
ride 1& 2 2& 3 3& 4 4&
snare 2 4
kick 1 1& 2& 3 3& 4&
bar 6
ride 8ths
snare 2 4
kick 8ths
bar 7 as 6
bar 8
snare 1 1e& 2 2e&
high 3 3e&
floor 4 4e&
kick 1a 2a 3a 4a
bar 9
crash 1
kick 1
