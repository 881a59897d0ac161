title Fernhill Street Cadence
meter 4/4
tempo crotchet = 108

bar 1
section A Step off
repeat start
snare accent flam 1, 1& 1a 2 2&, accent flam 3, 3& 3a 4 4&
bar 2
snare accent 1 3, 1e&a 2e&a 3e&a 2 4 4&
hands R L R R L R L L R L R R L R
bar 3 as 1
bar 4
snare roll 7 1-2, accent 2, 2&, roll 7 3-4, accent flam 4
repeat end 2

bar 5
section B Corner
snare accent 1, 1e&a, accent 2&, 2a, accent 3 3a, 4 4&
bar 6
snare drag 1 2 3, 1& 2& 3&, accent flam 4, 4&
bar 7 as 5
bar 8
snare roll 5 1-1&, accent 1&, roll 5 2-2&, accent 2&, roll 9 3-4, strong flam 4

bar 9
section C Halt
snare buzz 1-2, accent 2, buzz 3-4, accent 4
dynamics p 1
cresc 1 for 8
cue 1 the band stands still
bar 10
snare ruff 1 2, 1& 2&, accent 3, 3e&a, accent flam 4
bars 11-12 as 1-2
bar 13 as 5
bar 14 as 8
bar 15
snare roll 17 1-3, accent flam 3 for 2
dynamics p 1 ff 3
cresc 1-3
bar 16
snare flam accent 1 2 3, strong 4
fermata 4
