"""Where wheels stand: layouts, linkages through their travel, toe, camber and caster."""
