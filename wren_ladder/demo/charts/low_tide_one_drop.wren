title Low Tide One-Drop
meter 4/4
tempo crotchet = 76

bar 1
section A Groove
swing 8ths
repeat start
hat 8ths
snare cross 3
kick 3
bars 2-3 as 1
bar 4 as 1
hat 8ths 1-3
snare cross 3, 4 4&
time 2 only
repeat end 2

bar 5
section B Ride
ride 8ths
snare cross 3
kick 3
foot 2 4
bar 6 as 5
bar 7 as 5
kick 3 4&
bar 8
section Ending
hat 8ths 1-2
snare cross 3, accent 4, 4t
high 4l
kick 3 4
