title Marigold Bossa
tempo crotchet = 132
meter 4/4
bar 1
section A
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
bars 5-6 as 1-2
bar 7 as 1
bar 8
hat 8ths 1-2
snare cross 2, 3 3& 4 4&
kick 1 2& 3 4&
foot 2 4
