"""The choice between ways as a constraint model: variables, constraints, pins, prices, solving."""
