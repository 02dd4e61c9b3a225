"""What everybody needs on paper: cards for the benches, what to buy and weigh out, labels, dates for a calendar."""
