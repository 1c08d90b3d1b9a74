"""Moments about a gimbal's axes. No rig, no device: masses and offsets in, torques out."""

from isotact.core.balance.moments import GRAVITY_M_S2, residual_torque_nm, slide_mm

__all__ = ["GRAVITY_M_S2", "residual_torque_nm", "slide_mm"]
