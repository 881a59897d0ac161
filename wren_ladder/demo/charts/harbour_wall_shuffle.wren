title Harbour Wall Shuffle
meter 4/4
tempo crotchet = 92

bar 0
beats 1
snare 4 4t 4l

bar 1
section A Verse
crash 1
hat 1l 2 2l 3 3l 4 4l
snare accent 3, ghost 1t 2t 3t 4t
kick 1 2l
bar 2
hat 1 1l 2 2l 3 3l 4 4l
snare accent 3, ghost 1t 2t 3t 4t
kick 1 2l
bar 3 as 2
bar 4 as 2
kick 1 2l 4l
bars 5-7 as 2
bar 8
hat 1 1l 2 2l 3 3l
snare accent 3, ghost 1t 2t, 4 4t 4l
kick 1 2l

bar 9
section B Chorus
repeat start
crash 1
ride 1l 2 2l 3 3l 4 4l
snare accent 3
kick 1 1l 3 4l
foot 2 4
bar 10
ride 1 1l 2 2l 3 3l 4 4l
snare accent 3
kick 1 1l 4l
foot 2 4
bar 11 as 10
bar 12 as 10
snare accent 3, flam 4l
bars 13-15 as 10
bar 16
ending 1
ride 1 1l 2 2l
high 3 3t 3l
floor 4 4t
kick 1 1l 4l
repeat end 2
bar 16b as 16
ending 2
floor 4 4t 4l

bar 17
section A Verse
segno
crash 1
hat 1l 2 2l 3 3l 4 4l
snare accent 3, ghost 1t 2t 3t 4t
kick 1 2l
bars 18-23 as 2-7
bar 24 as 8
to coda

bar 25
section C Bridge
floor triplets, accent 1 3
kick quarters
bar 26 as 25
bar 27 as 25
bar 28
snare flam accent 1, 1t 1l 2 2t 2l
high 3 3t 3l
floor 4 4t 4l
kick 1 3
bars 29-30 as 25
bar 31 as 25
snare drag 4
bar 32
snare roll 7 1-2, accent 2, roll 7 3-4, accent 4
kick 2 4
jump D.S. al Coda

bars 33-39 as 9-15
coda
bar 40
section Ending
ride 1 1l 2 2l
snare accent 3
kick 1 1l
bar 41
snare triplets
kick 1 3
bar 42
crash strong 1
kick 1
