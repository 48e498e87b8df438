"""The rules of Log: a design alone has none, as readings are a site's."""

__all__: list[str] = []
