"""STEP files: read, placed, written, meshed.

`step_reader` makes a `step_model` of a file with the CAD kernel, in a process of its own (`step_process`);
`step_placing` turns and moves it, `step_writer` writes it.
"""
