title Penny Bridge
tempo crotchet = 92
meter 4/4
bar 1
section A Verse
crash 1
hat 1& 2 2& 3 3& 4 4&
snare 2 4
kick 1 3
bar 2
hat 8ths
snare 2 4
kick 1 2& 3
bar 3 as 2
bar 4
hat 8ths 1-3
snare 2, 4
high 4&
kick 1 3
bars 5-7 as 1-3
bar 8
hat 8ths 1-2
snare 2, 3*
high 4 4&
kick 1
bar 9
section B Chorus
crash 1
ride 1& 2 2& 3 3& 4 4&
snare 2 4
kick 1 1& 3
bar 10
ride 8ths
snare 2 4
kick 1 1& 3
bars 11-12 as 10
bar 13
ride 8ths
snare 2 4
kick 1 1& 3 4&
crash 4&
bar 14 as 10
bar 15 as 10
bar 16
crash 1
kick 1
