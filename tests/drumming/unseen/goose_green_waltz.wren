title Goose Green Waltz
tempo crotchet = 108
meter 3/4
bar 1
section A
hat quarters
snare 2 3
kick 1
bars 2-3 as 1
bar 4
hat quarters 1-2
snare 2, 3 3&
kick 1
bar 5 as 1
bar 6 as 1
kick 1 3&
bar 7 as 1
bar 8
snare 8ths
kick 1
bar 9
section B
ride 8ths
snare 3
kick 1
bar 10 as 9
kick 1 2&
bar 11 as 9
bar 12
crash 1
kick 1
