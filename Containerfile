# Lark in a container: built from the package registries, run by a user of its own, its data in a volume.
# It has no sign-in: publish it to this machine only, as with -p 127.0.0.1:5870:5870.

FROM node:20-slim AS screens
WORKDIR /lark/frontend
COPY frontend/package.json frontend/package-lock.json ./
RUN npm ci --silent --no-progress
COPY frontend ./
COPY docs ../docs
COPY examples ../examples
RUN npm run --silent build

FROM python:3.11-slim AS wheel
WORKDIR /lark
COPY pyproject.toml README.md LICENSE ./
COPY src src
COPY --from=screens /lark/src/zealous_lark/web/static src/zealous_lark/web/static
RUN pip wheel --no-cache-dir --no-deps -w /dist .

FROM python:3.11-slim
COPY requirements.lock /tmp/
RUN pip install --no-cache-dir --no-deps --require-hashes -r /tmp/requirements.lock
COPY --from=wheel /dist /tmp/dist
RUN pip install --no-cache-dir --no-deps /tmp/dist/*.whl && useradd --create-home lark && install -d -o lark /data
USER lark
ENV LARK_DATA=/data
VOLUME /data
EXPOSE 5870
HEALTHCHECK CMD python -c "from urllib.request import urlopen; urlopen('http://127.0.0.1:5870/api/health', timeout=3)"
# Whoever publishes the port puts TLS in front; every request signs in (lark phrase sets the pass phrase).
CMD ["lark", "serve", "--behind-proxy", "--host", "0.0.0.0"]
