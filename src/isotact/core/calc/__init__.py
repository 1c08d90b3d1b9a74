"""Numbers in, numbers out: power, optics, moments, radio paths, delay, rates. Each names the source of its formula.

No rig, no device, no document and no world is known here; whoever asks hands the numbers over.
"""
