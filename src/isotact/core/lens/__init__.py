"""What optics has to say: depth of field, and how long a walking subject stays in it.

No rig, no device: numbers in, numbers out.
"""

from isotact.core.lens.depth import CIRCLE_MM, Depth, depth_of_field

__all__ = ["CIRCLE_MM", "Depth", "depth_of_field"]
