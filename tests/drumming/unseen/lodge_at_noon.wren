title Lodge at Noon
tempo crotchet = 124
meter 4/4
bar 1
section A
floor 8ths, accent 1 2& 4
snare 2 4
kick 1 3
bar 2 as 1
bar 3
floor 1 1& 2 2&
high 3 3& 4 4&
snare 2
kick 1 3
bar 4
snare 1 2 3 3& 4
high 1& 2& 
floor 4&
kick 1 3
bar 5
section B
crash 1
ride 1& 2 2& 3 3& 4 4&
snare 2 4
kick 1 2& 3&
bar 6
ride 8ths, bell 1 2 3 4
snare 2 4
kick 1 2& 3&
bar 7
ride 8ths, bell 1& 2& 3& 4&
snare 2 4
kick 1 2& 3&
bar 8
crash 1 4&
kick 1 4&
snare 2 3
