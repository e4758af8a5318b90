"""What a teacher makes of findings: what to try next, where she agrees, and how a letter was judged."""
