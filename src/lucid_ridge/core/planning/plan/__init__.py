"""The whole plan of a shot: seven steps, the field card, and the settings of body and lens."""

from .shot_plan import ShotPlan, plan_shot

__all__ = ["ShotPlan", "plan_shot"]
