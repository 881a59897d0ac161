title Fever Tree
tempo crotchet = 104
meter 4/4
bar 1
section A
hat 16ths
snare 2 4
kick 1 2& 3
bar 2
hat 1 1e 1a 2 2e& 3 3e&a 4 4e&
snare 2 4
kick 1 1& 3
bar 3 as 1
bar 4 as 1
kick 1 1a 2& 3 3a
bar 5
section B
hat 1 1& 1a 2& 3 3& 3a 4&
snare accent 2 4, 1e 2e 2a 3e 4e 4a
kick 1 3
bar 6 as 5
bar 7 as 5
kick 1 2& 3 3&
bar 8
floor 1 1e 3
high 2& 2a 4
snare 1& 1a 2 2e 3e 3& 3a 4e 4& 4a
kick 1 2 3 4
