"""Flask: thin routes over the services, the OpenAPI document, and the built screens."""

from zealous_lark.web.app import create_app

__all__ = ["create_app"]
