"""Numbers in, numbers out: power, optics, moments, radio paths, rates. Each calculator names the source of its formula.

No rig, no device, no document and no world is known here; whoever asks hands the numbers over.
"""
