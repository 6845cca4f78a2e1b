"""The engine: rigs before one picture, under one hold and one set of conventions, and every figure that follows.
Pure.
"""

from cambrel.comparison.best_settings import asked as asked
from cambrel.comparison.brief import Brief as Brief
from cambrel.comparison.brief import Conventions as Conventions
from cambrel.comparison.brief import Hold as Hold
from cambrel.comparison.engine import Comparison as Comparison
from cambrel.comparison.engine import compare as compare
from cambrel.comparison.rig import Body as Body
from cambrel.comparison.rig import Lens as Lens
from cambrel.comparison.rig import Rig as Rig
