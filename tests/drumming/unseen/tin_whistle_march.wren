title Tin Whistle March
tempo crotchet = 96
meter 2/4
bar 1
section A
snare 1 1& 2 2&
bar 2
snare 1* 2 2&
bar 3
snare 1 1& 2*
bar 4
snare 1 2
bar 5
snare flam 1, 1& 2*
bar 6
snare 1e& 1 2 2&
bar 7
snare 1 1&a 2 2&
bar 8
snare roll 5 1-2, accent 2
bar 9
section B
snare accent 1, 1e&a 2 2&
bars 10 as 9
bar 11
snare drag 1, 1& drag 2, 2&
bar 12
snare flam accent 1, accent 2
