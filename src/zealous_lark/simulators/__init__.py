"""Simulated outside services and devices that ship with Lark. Nothing here is measured or forecast by anybody."""
