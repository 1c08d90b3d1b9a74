"""The choice between ways as a constraint model: variables, constraints, symmetry, the price list, the objective."""
