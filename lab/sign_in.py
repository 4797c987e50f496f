"""Sign in as a clinician in a browser."""

from playwright.sync_api import Page


def sign_in(page: Page, address: str, email: str, password: str) -> None:
    """Sign in at the site's address and wait for Rounds."""
    page.goto(f"{address}/rounds/")
    page.fill("input[name=login]", email)
    page.fill("input[name=password]", password)
    page.click("button.main-action")
    page.wait_for_url("**/rounds/**")
