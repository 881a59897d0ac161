title Chalk Farm Road
tempo crotchet = 100
meter 4/4
bar 1
section A
hat 8ths
snare 2 4
kick 1 2& 3&
bar 2 as 1
kick 1 2& 3& 4&
bar 3 as 1
bar 4 as 1
hat 8ths, open 4&
bar 5
section B
hat 8ths
snare 2 4, 4a
kick 1 1a 3&
bar 6 as 5
bar 7 as 5
snare 2 2a 4 4a
bar 8
hat 8ths 1-2
snare 2, 3 3a
high 4 4a
kick 1 3& 4&
bars 9-12 as 1-4
bar 13
crash 1
kick 1
