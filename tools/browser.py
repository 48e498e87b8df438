"""Headless Chromium through ChromeDriver, set up alike for the browser tests, the benchmarks and
the pictures."""

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

FLAGS = """--headless=new --disable-dev-shm-usage --disable-gpu --disable-quic --no-first-run
--no-default-browser-check --disable-background-networking --disable-component-update --disable-sync
--disable-extensions --hide-scrollbars --force-device-scale-factor=1 --force-color-profile=srgb --lang=en-US"""


def resize(driver: webdriver.Chrome, width: int, height: int) -> None:
    """Give the page exactly this size."""
    metrics: dict[str, Any] = {
        "width": width,
        "height": height,
        "deviceScaleFactor": 1,
        "mobile": width < 600,
    }
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)


SCRIPT_S = 150
"""A script that opens every number of a step waits for frames, which are few on a machine with two
other lanes."""


@contextmanager
def chromium(width: int = 1280, height: int = 800) -> Iterator[webdriver.Chrome]:
    """A fresh browser with a profile of its own."""
    options = Options()
    options.binary_location = "/usr/bin/chromium"
    for flag in FLAGS.split():
        options.add_argument(flag)
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    with tempfile.TemporaryDirectory(
        prefix="yonderstat-browser-", ignore_cleanup_errors=True
    ) as profile:
        options.add_argument(f"--user-data-dir={profile}")
        driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        driver.set_script_timeout(SCRIPT_S)
        try:
            resize(driver, width, height)
            yield driver
        finally:
            driver.quit()
