"""What can be said of ink: headings, grades, codes, and a finding."""
