"""What is said of a walked form as a whole: its review and the three answers in words."""
