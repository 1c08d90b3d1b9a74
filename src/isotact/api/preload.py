"""What every process of the pool needs, loaded once by the one that makes them."""

from isotact.api.application import application
from isotact.catalogue import shipped
from isotact.core.planning import warm_up

__all__ = ["application"]

shipped()
warm_up()
