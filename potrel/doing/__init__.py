"""What is done to a kitchen, each in one transaction: routes, the clock and the command line all do it by these."""
