title North Mole
tempo crotchet = 74
meter 4/4
bar 1
section A
hat 8ths
snare cross 3
kick 3
bar 2 as 1
bar 3 as 1
hat 8ths, open 2&
bar 4
hat 8ths 1-2
snare 3 3& 4 4&
kick 3
bar 5
section B
hat 8ths
snare cross 3
kick quarters
bar 6 as 5
bar 7 as 5
snare cross 3 4&
bar 8
snare 3 3t 3l
high 4 4t
floor 4l
hat 8ths 1-2
kick 1 2
