"""IPC-2581 B and C (XML): packages with pad stacks and lands, pins, components, bill of materials, approved vendors."""
