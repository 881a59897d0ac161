# name: Hat in semiquavers
# kind: groove
# asks: hat in semiquavers
# target: 84
meter 4/4
tempo crotchet = 60
bar 1
hat 1 1e 1& 1a 2e 2& 2a 3 3e 3& 3a 4e 4& 4a
snare 2 4
kick 1 3
