"""What people change: one door for each kind of change, which knows what follows from it and
does that in the same transaction. Nothing else writes what people have written."""
