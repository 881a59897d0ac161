"""Pictures of the core's values: layouts that templates draw, and engraved staves."""
