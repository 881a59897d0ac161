title Old Tram
tempo crotchet = 112
meter 4/4
bar 1
section A
snare 16ths, accent 1& 2& 3& 4&
kick quarters
foot offbeats
bar 2 as 1
bar 3
snare 16ths, accent 1& 2& 3 3& 4&
kick quarters
foot offbeats
bar 4
snare 16ths, accent 1 1a 2& 3e 4 4a
kick quarters
foot offbeats
bar 5
section B
snare 8ths, flam accent 2 4
kick 1 2& 3
bar 6 as 5
bar 7 as 5
bar 8
snare roll 9 1-3, accent 3, flam 4
kick 1 3
