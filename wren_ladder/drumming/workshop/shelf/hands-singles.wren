# name: Singles in quavers
# kind: hands
# target: 90
meter 4/4
tempo crotchet = 60
bar 1
snare 8ths
hands RLRLRLRL
