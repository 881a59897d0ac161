title Quiet Corner Swing
tempo crotchet = 138
meter 4/4
bar 1
section A Head
swing 8ths
ride 1 2 2& 3 4 4&
foot 2 4
bar 2 as 1
snare 2&
bar 3 as 1
snare 4
bar 4 as 1
snare 2& 4
kick 4&
bar 5 as 1
kick 1
snare 3&
bar 6 as 1
snare 1& 2&
bar 7 as 1
bar 8
ride 1 2 2&
snare 3 3& 4
kick 4&
foot 2
bars 9-12 as 1-4
