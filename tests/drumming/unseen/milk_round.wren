title Milk Round
tempo crotchet = 70
meter 4/4
bar 1
section A
snare quarters
bar 2
snare 1 2 3 3& 4
bar 3
snare 1 2 4
bar 4
snare 1 1& 2 3
bar 5
snare 1 1& 2 2& 3 3& 4
bar 6
snare 1 3
bar 7
snare 1* 2 3* 4
bar 8
snare 1 2 3
