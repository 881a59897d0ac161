title Slow Lantern
meter 12/8
tempo dotted crotchet = 52

bar 1
section A Lantern
hat 8ths
snare 4 10
kick 1 7
bar 2 as 1
kick 1 6 7
bar 3 as 1
bar 4 as 1
hat 8ths, open 12
kick 1 6 7 12
bar 5
section B Rise
ride 8ths, bell 1 4 7 10
snare accent 4 10, ghost 6 9
kick 1 3 7 9
foot 4 10
bar 6 as 5
bar 7 as 5
kick 1 3 7 8 9
bar 8
ride 8ths 1-6
snare 4, 7 7& 8 8& 9 9&
floor 10 11 12
kick 1 7 10
rit 7-end
