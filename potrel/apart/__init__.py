"""Work done in processes of their own: what brings one down, or grows in it, takes nothing of the server with it."""
