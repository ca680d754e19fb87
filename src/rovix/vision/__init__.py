"""What moves in footage: regions followed from frame to frame. Grey pictures in, plain numbers out."""
