title Wet Slate
tempo crotchet = 88
meter 4/4
bar 1
section A
hat 8ths
snare 3
kick 1 4&
bar 2 as 1
kick 1 2& 4&
bar 3 as 1
bar 4 as 1
hat 8ths 1-3
snare 3 4 4e 4& 4a
bar 5
section B
crash 1
china 2 3 4
snare 3
kick 1 1& 2& 4
bar 6
china quarters
snare 3
kick 1 1& 2& 4
bar 7 as 6
bar 8
floor 1* 2*
snare 3*
high 4 4e
floor 4& 4a
kick 1 2 3 4
