"""The term and the lesson: which letters come when, on which days, and what a lesson's minutes hold."""
