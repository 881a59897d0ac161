title Long Pier Signals
meter 4/4
tempo crotchet = 104

bar 0
beats 1
snare 16ths 4
bar 1
segno 2
section A Lamps
crash 1
hat 8ths 2-4, 1&
snare 2 4
kick 1 3 3&
bars 2-3 repeat
bar 4
to coda 2
note look up: the band stops here
hat 8ths 1-2
snare 2, 16ths 3-4
kick 1
bars 5-8 rest
bar 9
section B Signals
segno
ride 8ths, bell 1 3
snare 2 4
kick 1 2& 3
bar 10
ride 8ths
snare 2 4, ghost 3e
kick 1 3&
bar 11
repeat 2 bars
bar 12
repeat 2 bars
bar 13
cue 1 go on in the same way
slashes 1
bar 14 slashes
bar 15
to coda
ride 8ths 1-2
snare 2
kick 1
slashes 3
bar 16
ride quarters 1-2
snare 2
kick 1
fill 3
bar 17
section C Gates
meter 3+2+2/8
hat 8ths
snare 4 6
kick 1
bars 18-19 repeat
bar 20
snare 8ths
jump D.S. al Coda
bar 21
section Coda
coda
meter 4/4
dynamics p 1
snare buzz 1-tied
cresc 1 for 8
bar 22
jump D.S.S. al Coda 2
snare buzz 1-4, accent 4
kick 4
bar 23
coda 2
dynamics ff 1
crash 1
kick 1
fermata 1
