# name: Paradiddle round the kit
# kind: hands
# target: 80
meter 4/4
tempo crotchet = 56
bar 1
snare 16ths 1, 16ths 3
high 16ths 2
floor 16ths 4
hands RLRRLRLLRLRRLRLL
