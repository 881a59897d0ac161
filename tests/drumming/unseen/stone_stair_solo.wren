title Stone Stair
tempo crotchet = 80
meter 3/4
bar 1
section A
snare accent 1, 1e&a 2 2& 3
dynamics p 1
bar 2
snare 1 1a 2 2a 3
bar 3
snare 1&a 2&a 3
bar 4
snare 1a 2a 3
bar 5
snare roll 7 1-2, accent 2, 3 3&
dynamics f 1
bar 6
snare drag 1&, 2, drag 2&, 3
bar 7
snare 1t 1l 2 3t 3l
bar 8
snare buzz 1-3, accent 3
cresc 1-3
bar 9
section B
snare accent 1 1a 2&, 1e& 2 2e 2a 3
bar 10 as 9
bar 11
snare 1e&a 2e&a 3
bar 12
snare strong flam 1
