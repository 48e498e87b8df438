"""A thin layer between Flask and pydantic: typed bodies in, typed answers out, one OpenAPI document
from both.

Why our own: see docs/decisions/0003-openapi-from-types.md.
"""

import hashlib
import inspect
import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar
from uuid import UUID

from flask import Flask, Response, request
from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from yonderstat.core.bounds import fault_of_value
from yonderstat.core.design import Fault, faults_of

from .access import About, Access, Rule, rule_of
from .problems import PROBLEM_TYPE, Problem, ProblemDocument
from .transfer import UPLOAD_TYPE, file_response, read_page, read_upload, upload_on_disk, with_links

Handler = TypeVar("Handler", bound=Callable[..., Any])
REVISION_HEADER, CREATE_KEY_HEADER = "If-Match", "Idempotency-Key"
MAX_KEY = 200
GIVEN = "Given"
BINARY = {"type": "string", "format": "binary"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Endpoint:
    """One operation of the API."""

    method: str
    path: str
    name: str
    summary: str
    body: TypeAdapter[Any] | None
    body_schema: TypeAdapter[Any] | None
    answer: TypeAdapter[Any] | None
    status: int
    on_revision: bool
    query: tuple[str, ...]
    options: tuple[str, ...]
    rule: Rule
    """What is asked of whoever uses it."""
    upload: int | None
    """A file of at most so many bytes is taken in place of JSON."""
    on_disk: bool
    """Whether that file is read from disk: it may be larger than a process should hold."""
    file: str | None
    """The mimetype of the file that is answered in place of JSON."""
    paged: bool


class Api:
    """The operations of the API, in the order they are declared."""

    def __init__(self) -> None:
        self.endpoints: list[tuple[Endpoint, Callable[..., Any]]] = []

    def operation(
        self,
        method: str,
        path: str,
        *,
        access: Access,
        about: About | None = None,
        body: Any = None,
        body_schema: Any = None,
        answer: Any = None,
        status: int = 200,
        on_revision: bool = False,
        query: tuple[str, ...] = (),
        options: tuple[str, ...] = (),
        upload: int | None = None,
        on_disk: bool = False,
        file: str | None = None,
        paged: bool = False,
    ) -> Callable[[Handler], Handler]:
        """Declare an operation. Its handler gets path parts by name, then `body`, `on_revision` and
        query words.

        `access` is the word a person must hold at the site of the thing its path names, or with
        `about` for what it is about where its path names none. A query word must be given, an
        option may be: it is empty where it was not. With `upload` it takes a file of at most so
        many bytes, named in the query; its handler gets `upload`, and with `on_disk` that as a file
        rather than its bytes. With `file` it answers a file of that type, a range of it where one
        is asked for. With `paged` it gets `page`, and answers a `Part` of the list. `body_schema`
        is published in place of the body's own, where the handler reads more closely than a type
        can say.
        """

        def declare(handler: Handler) -> Handler:
            endpoint = Endpoint(
                method=method,
                path=path,
                name=handler.__name__,
                summary=" ".join((inspect.getdoc(handler) or "").split("\n\n")[0].split()),
                body=TypeAdapter(body) if body is not None else None,
                body_schema=TypeAdapter(body_schema) if body_schema is not None else None,
                answer=TypeAdapter(answer) if answer is not None else None,
                status=status,
                on_revision=on_revision,
                query=query,
                options=options,
                rule=rule_of(path, access, about),
                upload=upload,
                on_disk=on_disk,
                file=file,
                paged=paged,
            )
            self.endpoints.append((endpoint, handler))
            return handler

        return declare

    def register(self, app: Flask) -> None:
        """Put every operation on the app."""
        for endpoint, handler in self.endpoints:
            rule = re.sub(r"\{(\w+)\}", r"<uuid:\1>", endpoint.path)
            app.add_url_rule(
                rule, endpoint.name, _view(endpoint, handler), methods=[endpoint.method]
            )
        app.config["UPLOADS"] = {
            endpoint.name: endpoint.upload for endpoint, _ in self.endpoints if endpoint.upload
        }


def _view(endpoint: Endpoint, handler: Callable[..., Any]) -> Callable[..., Response]:
    def view(**parts: UUID) -> Response:
        words: dict[str, Any] = dict(parts)
        if endpoint.body is not None:
            words["body"] = _read_body(endpoint.body)
        if endpoint.on_revision:
            words["on_revision"] = _read_revision()
        for name in endpoint.query:
            words[name] = _read_query(name)
        for name in endpoint.options:
            words[name] = _read_query(name) if name in request.args else ""
        if endpoint.paged:
            words["page"] = read_page()
        if endpoint.upload is not None and endpoint.on_disk:
            with upload_on_disk(endpoint.upload) as upload:
                return _answered(endpoint, handler(**words, upload=upload), words)
        if endpoint.upload is not None:
            words["upload"] = read_upload(endpoint.upload)
        return _answered(endpoint, handler(**words), words)

    return view


def _answered(endpoint: Endpoint, answer: Any, words: dict[str, Any]) -> Response:
    if endpoint.file is not None:
        return file_response(answer, endpoint.file)
    if endpoint.answer is None:
        return Response(status=endpoint.status)
    told = list(answer.items) if endpoint.paged else answer
    response = Response(
        endpoint.answer.dump_json(told), endpoint.status, mimetype="application/json"
    )
    return with_links(response, words["page"], answer) if endpoint.paged else response


def _read_query(name: str) -> str:
    values = request.args.getlist(name)
    if len(values) != 1:
        raise Problem(
            400,
            "bad-query",
            f"Give “{name}” once in the address",
            f"It was given {len(values)} times.",
        )
    if any(ord(char) < 32 or 0xD800 <= ord(char) < 0xE000 for char in values[0]):
        raise model_fault(f"/{name}", "contains a control character; use plain text")
    return values[0]


def _refuse_constant(text: str) -> float:
    raise ValueError(f"{text} is not a number")


def _refuse_repeats(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        raise ValueError("a key appears twice in one object")
    return found


def _read_body(adapter: TypeAdapter[Any]) -> Any:
    try:
        text = request.get_data().decode("utf-8")
        decoded = json.loads(
            text, parse_constant=_refuse_constant, object_pairs_hook=_refuse_repeats
        )
    except (ValueError, RecursionError) as error:
        raise Problem(400, "malformed-json", "The body is not JSON", str(error)[:300]) from None
    unfit = fault_of_value(decoded, of_document=True)
    if unfit is not None:
        raise Problem(
            422, "invalid-body", "The request is not as it must be", unfit[1], [Fault(*unfit)]
        )
    try:
        return adapter.validate_python(decoded)
    except ValidationError as error:
        faults = faults_of(error)[:100]
        detail = "; ".join(f"{fault.pointer or '/'} {fault.message}" for fault in faults[:5])
        raise Problem(
            422, "invalid-body", "The request is not as it must be", detail, faults
        ) from None


def _read_revision() -> int:
    text = request.headers.get(REVISION_HEADER)
    if text is None:
        title = f"Say which revision you edit in {REVISION_HEADER}"
        raise Problem(
            428, "revision-needed", title, "It keeps two windows from losing each other's work."
        )
    digits = text.strip().strip('"')
    if not (digits.isascii() and digits.isdigit() and len(digits) < 10):
        raise Problem(400, "bad-revision", f"{REVISION_HEADER} must be a revision number")
    return int(digits)


def create_key() -> str | None:
    """The idempotency key of a create, if it has one."""
    key = request.headers.get(CREATE_KEY_HEADER)
    if key is not None and not (0 < len(key) <= MAX_KEY and key.isprintable()):
        raise Problem(
            400, "bad-key", f"{CREATE_KEY_HEADER} must be 1 to {MAX_KEY} plain characters"
        )
    return key


def request_digest() -> str:
    """What is asked for, in short: a create key is good for this alone."""
    whole = f"{request.method} {request.path}\n".encode() + request.get_data()
    return hashlib.sha256(whole).hexdigest()


def model_fault(pointer: str, message: str) -> Problem:
    """A fault in one field of the body that only the server can see."""
    return Problem(
        422,
        "invalid-body",
        "The request is not as it must be",
        message,
        [Fault(pointer, message)],
    )


def openapi_document(api: Api) -> dict[str, Any]:
    """The OpenAPI 3.1 document of all operations."""
    problem = TypeAdapter(ProblemDocument)
    wanted: list[tuple[Any, Any, TypeAdapter[Any]]] = [("problem", "serialization", problem)]
    for endpoint, _ in api.endpoints:
        if endpoint.body is not None:
            wanted.append((f"{endpoint.name}.body", "validation", endpoint.body))
        if endpoint.answer is not None:
            wanted.append((f"{endpoint.name}.answer", "serialization", endpoint.answer))
    refs, definitions = TypeAdapter.json_schemas(
        wanted, ref_template="#/components/schemas/{model}"
    )
    schemas = _always_written(
        definitions.get("$defs", {}), [refs[key] for key in refs if key[1] == "validation"]
    )
    for endpoint, _ in api.endpoints:
        if endpoint.body_schema is not None:
            refs[(f"{endpoint.name}.body", "validation")] = _given(endpoint.body_schema, schemas)
    paths: dict[str, dict[str, Any]] = {}
    for endpoint, _ in api.endpoints:
        operation = _operation(endpoint, {name: schema for (name, _mode), schema in refs.items()})
        paths.setdefault(endpoint.path, {})[endpoint.method.lower()] = operation
    return {
        "openapi": "3.1.0",
        "info": {"title": "Yonderstat", "version": "1"},
        "paths": paths,
        "components": {"schemas": schemas},
    }


def _given(adapter: TypeAdapter[Any], schemas: dict[str, Any]) -> Any:
    """A type as somebody may give it, with what has a default left out: beside the same type as we
    write it."""
    whole = adapter.json_schema(ref_template=f"#/components/schemas/{GIVEN}{{model}}")
    parts = {f"{GIVEN}{name}": part for name, part in whole.pop("$defs", {}).items()}
    name = f"{GIVEN}{whole['title']}"
    schemas |= {**parts, name: whole}
    return {"$ref": f"#/components/schemas/{name}"}


def _always_written(schemas: dict[str, Any], taken: list[Any]) -> dict[str, Any]:
    """Mark every field of an answer as present, default or not: we always write it, but for the few
    that are left out where they hold nothing. What we take stays as it is."""
    reached: set[str] = set()
    queue: list[Any] = list(taken)
    while queue:
        for name in re.findall(r"#/components/schemas/([^\"]+)", json.dumps(queue.pop())):
            if name not in reached:
                reached.add(name)
                queue.append(schemas[name])
    for name, schema in schemas.items():
        if name not in reached and "properties" in schema:
            parts = schema["properties"].items()
            schema["required"] = [name for name, part in parts if not part.get("x-left-out")]
    return schemas


def _operation(endpoint: Endpoint, refs: dict[str, Any]) -> dict[str, Any]:
    parameters: list[dict[str, Any]] = [
        {
            "name": name,
            "in": "path",
            "required": True,
            "schema": {"type": "string", "format": "uuid"},
        }
        for name in re.findall(r"\{(\w+)\}", endpoint.path)
    ]
    if endpoint.on_revision:
        parameters.append(
            {
                "name": REVISION_HEADER,
                "in": "header",
                "required": True,
                "schema": {"type": "string"},
            }
        )
    if endpoint.status == 201:
        parameters.append({"name": CREATE_KEY_HEADER, "in": "header", "schema": {"type": "string"}})
    parameters += [
        {
            "name": name,
            "in": "query",
            "required": name in endpoint.query,
            "schema": {"type": "string"},
        }
        for name in (*endpoint.query, *endpoint.options)
    ]
    if endpoint.upload is not None:
        parameters.append({"name": "name", "in": "query", "schema": {"type": "string"}})
    if endpoint.paged:
        count = {"type": "integer", "minimum": 0}
        parameters += [
            {"name": name, "in": "query", "schema": count} for name in ("offset", "limit")
        ]
    done: dict[str, Any] = {"description": endpoint.summary}
    if endpoint.file is not None:
        done["content"] = {
            endpoint.file: {"schema": {} if endpoint.file.endswith("json") else BINARY}
        }
    if endpoint.answer is not None:
        done["content"] = {"application/json": {"schema": refs[f"{endpoint.name}.answer"]}}
    operation: dict[str, Any] = {
        "operationId": endpoint.name,
        "x-access": endpoint.rule.access,
        "summary": endpoint.summary,
        "parameters": parameters,
        "responses": {
            str(endpoint.status): done,
            "default": {
                "description": "A problem document",
                "content": {PROBLEM_TYPE: {"schema": refs["problem"]}},
            },
        },
    }
    if endpoint.body is not None:
        schema = refs[f"{endpoint.name}.body"]
        operation["requestBody"] = {
            "required": True,
            "content": {"application/json": {"schema": schema}},
        }
    if endpoint.upload is not None:
        operation["requestBody"] = {"required": True, "content": {UPLOAD_TYPE: {"schema": BINARY}}}
    return operation


class Body(BaseModel):
    """A request body: strict, no unknown fields."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, allow_inf_nan=False)
