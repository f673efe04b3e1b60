"""What is drawn, without who paints it: lines, areas, texts and dimensions, each with a role and a place."""
