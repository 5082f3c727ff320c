"""The checks of Potrel. `./run test` runs them all; docs/CONTRIBUTING.md says how to run one."""
