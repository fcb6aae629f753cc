"""Writing the files of components: whole, regions, keys, recoloured in place."""
