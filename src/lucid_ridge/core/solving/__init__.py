"""The solver: settings, filters, frames and start that fulfil the wishes, and the requirements to relax if none do."""
