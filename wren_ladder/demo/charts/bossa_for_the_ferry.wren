title Bossa for the Ferry
meter 4/4
tempo crotchet = 112

bar 1
section A Harbour
hat 8ths
snare cross 1 2& 4
kick 1 2& 3 4&
foot 2 4
bar 2
hat 8ths
snare cross 2 3&
kick 1 2& 3 4&
foot 2 4
bars 3-4 as 1-2
bar 5
section B Open water
ride 8ths, bell 1 3
snare cross 1 2& 4
kick 1 2& 3 4&
foot 2 4
bar 6
ride 8ths, bell 1 3
snare cross 2 3&
kick 1 2& 3 4&
foot 2 4
bar 7 as 5
bar 8
ride 8ths 1-2
snare 3 3e& 4
high 3a
floor 4&
kick 1 2& 4
