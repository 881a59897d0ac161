title Sardine Street Funk
tempo crotchet = 96
meter 4/4
bar 1
section A
hat 8ths
snare accent 2 4, ghost 2a 3e 3a
kick 1 1& 3&
bar 2 as 1
kick 1 1& 3& 4a
bar 3 as 1
bar 4 as 1
hat 8ths, open 4&
kick 1 1a 2& 3&
bar 5
section B
hat 16ths
snare accent 2 4
kick 1 1& 2a 3&
bar 6 as 5
kick 1 2& 2a 3&
bar 7 as 5
bar 8
hat 8ths 1-2
snare accent 2, 3 3e 3a 4e 4&
floor 4a
kick 1 3& 4
bars 9-12 as 1-4
