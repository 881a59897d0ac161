title Riverbank Drill
tempo crotchet = 88
meter 4/4
bar 1
section A
snare accent 1 3, 1e&a 2e&a 2 3e&a 4 4e&a
hands R L R R L R L L R L R R L R L L
bar 2
snare roll 5 1-2, accent 2, roll 5 3-4, accent 4
bar 3
snare flam 1 2 3 4, 1e& 2e& 3e& 4e&
bar 4
snare accent 1, 1e&a 2 2e&a 3 3e&a 4
bar 5
snare roll 9 1-3, accent 3, 3e&a 4
bar 6
snare 1 1t 1l 2 2t 2l 3 3e 3& 3a 4
bar 7
snare drag 1 2, 1& 2&, flam 3 4, 3& 4&
bar 8
snare roll 7 1-2, accent 2, 2&, ruff 3, strong flam 4
