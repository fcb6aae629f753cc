"""The running desktop behind one interface: the real one and a simulated one."""
