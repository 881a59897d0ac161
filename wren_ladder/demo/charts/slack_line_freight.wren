title Slack Line Freight
meter 4/4
tempo crotchet = 104

bar 1
section A Rails
snare 16ths, accent 1& 2& 3& 4&
kick quarters
foot 2 4
bar 2 as 1
bar 3
snare 16ths, accent 1& 2& 3& 3a 4&
kick quarters
foot 2 4
bar 4
snare 16ths, accent 1& 2& 3 4, flam 4
kick quarters
foot 2 4

bar 5
section B Bridge
repeat start
snare 16ths, ghost 1e 1a 2e 2a 3e 3a 4e 4a, accent 2 4
kick 1 3
foot 2 4
bar 6 as 5
kick 1 2& 3
bar 7 as 5
bar 8
snare 16ths 1-2, accent 1 2
high 3*
floor 4*
kick 1 3
repeat end 2 vamp

bars 9-11 as 1-3
bar 12
section Ending
snare roll 9 1-2, accent 2, roll 9 3-4, strong 4
kick 2 4
