title Toffee Tin
tempo crotchet = 76
meter 4/4
bar 1
section A
kick 1 3
snare 2 4
bars 2-3 as 1
bar 4
kick 1 3
snare 2 3& 4
bar 5
section B
kick quarters
hat 2 4
bars 6-7 as 5
bar 8
snare 1 2 3 4
kick 1
