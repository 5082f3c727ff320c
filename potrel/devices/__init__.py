"""Devices and services outside the kitchen: one small interface each, and a simulated stand-in that ships with Potrel."""
