title Blue Ferry Disco
tempo crotchet = 120
meter 4/4
bar 1
section A
hat 8ths, open 1& 2& 3& 4&
snare 2 4
kick quarters
bar 2 as 1
bar 3 as 1
bar 4
hat 8ths 1-3, open 1& 2& 3&
snare 2, 4 4e& 
kick quarters
bar 5
section B
hat 16ths
snare 2 4
kick quarters
bar 6 as 5
bar 7 as 5
crash 4&
kick 1 2 3 4&
bar 8
hat 16ths 1-2
snare 2, 3*
high 4 4e
floor 4& 4a
kick quarters
bar 9
crash 1
kick 1
