title Mirrorball Quay
meter 4/4
tempo crotchet = 118

bar 1
section A Verse
crash 1
hat 1& 2 2& 3 3& 4 4&
snare 2 4
kick quarters
bar 2
hat 8ths
snare 2 4
kick quarters
bar 3 as 2
bar 4 as 2
hat 8ths, open 4&

bar 5
section B Chorus
repeat start
hat 8ths, open 1& 2& 3& 4&
snare 2 4
kick quarters
bars 6-7 as 5
bar 8
hat 8ths 1-2
snare 2, 3 3& 4 4e&a
kick quarters
repeat end 2

bar 9
section C Break
hat offbeats, open 1& 2& 3& 4&
kick quarters
bar 10 as 9
snare 4
bar 11
hat 1* 2e&a 3* 4e&a
snare 2 4
kick quarters
bar 12
snare accent 1, 2 2& 3 3& 4*
kick quarters

bars 13-15 as 5
bar 16
section Ending
crash accent 1
kick 1
