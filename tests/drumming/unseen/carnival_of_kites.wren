title Carnival of Kites
tempo minim = 104
meter 2/2
bar 1
section A
ride 8ths
snare cross 1& 2
kick 1 1a 2 2a
foot 1& 2&
bar 2
ride 8ths
snare cross 1 1& 2e 2a
kick 1 1a 2 2a
foot 1& 2&
bars 3-6 as 1-2
bar 7 as 1
bar 8
snare 8ths, accent 1 1a 2&
kick 1 1a 2 2a
foot 1& 2&
