"""What stands before every route: who may ask, how much may be sent, and what a browser may do with the answer."""
