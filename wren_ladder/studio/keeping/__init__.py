"""Years of work kept safe: backed up, brought back, looked over."""
