"""Today, the week and courses: what must be done now, what each lesson practises, and what none has yet."""
