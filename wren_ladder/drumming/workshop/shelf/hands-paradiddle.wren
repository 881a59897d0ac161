# name: Paradiddle in semiquavers
# kind: hands
# target: 88
meter 4/4
tempo crotchet = 56
bar 1
snare 16ths 1-2
hands RLRRLRLL
