title Five Apples
tempo crotchet = 132
meter 5/4
bar 1
section A
ride 1 2 2& 3 4 5
snare 4
kick 1 3&
foot 2 5
bar 2 as 1
kick 1 3& 5&
bar 3 as 1
bar 4
ride 1 2 2& 3
snare 4 4t 4l 5
floor 5t 5l
kick 1 4
bar 5
section B
ride 8ths, bell 1& 2& 3& 4& 5&
snare 3 5
kick 1 4
foot quarters
bar 6 as 5
kick 1 2& 4
bar 7 as 5
bar 8
crash 1
kick 1
