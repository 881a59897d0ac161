title Five Gates
meter 5/4
tempo crotchet = 126

bar 1
section A Gate
ride 8ths, bell 1 4
snare 4
kick 1 2& 3
foot 2 5
bar 2 as 1
bar 3 as 1
kick 1 2& 3 5&
bar 4
ride 8ths 1-3
snare 4 4e& 5 5a
high 4a
floor 5& 
kick 1 2& 3

bar 5
section B Wall
hat 8ths, open 5&
snare accent 3 5, ghost 2a 4e
kick 1 2 4&
bar 6 as 5
bar 7 as 5
kick 1 2 3& 4&
bar 8
snare flam 1 3, accent flam 5
floor 2 2& 4 4&
kick 1 3 5
