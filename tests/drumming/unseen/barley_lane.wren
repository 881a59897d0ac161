title Barley Lane
tempo crotchet = 84
meter 4/4
bar 1
section A
hat quarters
snare 2 4
kick 1 3
bars 2-3 as 1
bar 4
hat quarters 1-3
snare 2, 4 4&
kick 1 3
bar 5
section B
hat 8ths
snare 2 4
kick 1 3
bar 6 as 5
kick 1 3 3&
bar 7 as 5
bar 8
hat 8ths 1-2
snare 2, 3 3& 4 4&
kick 1
bar 9
section Ending
crash 1
kick 1
