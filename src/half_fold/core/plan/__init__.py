"""The running order: pages, their spreads, and what can be bound."""
