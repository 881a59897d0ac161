# name: Accents that walk
# kind: hands
# target: 84
meter 4/4
tempo crotchet = 56
bar 1
snare 16ths, accent 1 2e 3& 4a
hands RLRLRLRLRLRLRLRL
