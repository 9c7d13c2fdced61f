"""Tables made up by independent draws, with what is true of them: for setting weights, and for measuring."""
