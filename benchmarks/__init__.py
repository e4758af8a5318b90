"""Speed, measured with pytest-benchmark: ``make bench``. Not part of the tests."""
