"""The trainer: something hidden is wrong with a rig, somebody looks for it, and is told how the finder would have.

Only light names stand here; what needs the table of outcomes is imported where it is asked for.
"""

from isotact.core.training.exercise import LEVELS, Exercise, Level, NoExerciseError
from isotact.core.training.progress import Missed, Trained, missed
from isotact.core.training.told import (
    Answer,
    ExerciseState,
    GiveUp,
    LookAt,
    Mend,
    Suspect,
    ToldInTraining,
    Trail,
    TrailStep,
    Verdict,
)

__all__ = [
    "LEVELS",
    "Answer",
    "Exercise",
    "ExerciseState",
    "GiveUp",
    "Level",
    "LookAt",
    "Mend",
    "Missed",
    "NoExerciseError",
    "Suspect",
    "ToldInTraining",
    "Trail",
    "TrailStep",
    "Trained",
    "Verdict",
    "missed",
]
