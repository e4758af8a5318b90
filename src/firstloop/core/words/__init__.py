"""Words: units, the bank and what is found in it, what is made of them, sentences, and how long they take."""
