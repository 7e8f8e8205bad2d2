"""The Till: carts rung up one by one under a plan, beside today."""
