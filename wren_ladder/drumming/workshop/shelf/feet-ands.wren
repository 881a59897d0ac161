# name: Kick on the ands
# kind: feet
# asks: off-beat quaver
# target: 92
meter 4/4
tempo crotchet = 60
bar 1
hat quarters
kick 1& 2& 3& 4&
