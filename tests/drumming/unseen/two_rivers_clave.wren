title Two Rivers
tempo crotchet = 100
meter 4/4
bar 1
section A
ride bell 1 2 2& 3& 4&
snare cross 2
floor 4 4&
kick 2& 4
bar 2
ride bell 1 1& 2& 3 4&
snare cross 2
floor 4 4&
kick 2& 4
bars 3-4 as 1-2
bars 5-6 as 1-2
bar 7 as 1
bar 8
snare 1 1& 2 2a 3& 4 4a
kick 2& 4
