"""A reload at the machine while the server is away. On its own: a browser and a server that nothing else has used."""

from __future__ import annotations

from playwright.sync_api import Error, expect

from kenzet.standins.machine import quilt_called
from tests.browser.test_machine import line


def reload_without_server(page):
    """A starved browser may start its worker too late and ask the network instead: then she opens the page once more."""
    url = page.url
    for tries in range(5):
        try:
            page.goto(url) if tries else page.reload()
            return
        except Error as error:
            if tries == 4 or "ERR_CONNECTION_REFUSED" not in str(error):
                raise
            page.wait_for_timeout(3000)


def test_a_reload_while_the_server_is_away_shows_the_quilt_and_goes_on(
    launch_browser, browser_context_args, served
):
    browser = launch_browser()
    context = browser.new_context(**(browser_context_args | {"service_workers": "allow"}))
    page = context.new_page()
    page.goto(f"{served.url}/quilt/{quilt_called(served.url, 'Kelp Garden')}/machine")
    page.get_by_test_id("next").wait_for()
    while page.get_by_test_id("line").inner_text()[:4] != "Line":
        page.keyboard.press("Space")
    first = line(page)
    page.wait_for_function(
        "async () => (await caches.match('/index.html', {ignoreSearch: true})) && navigator.serviceWorker.controller"
        " && (await (await caches.open('kenzet.machine')).keys()).length"
    )
    page.keyboard.press("Space")
    assert line(page) == first + 1

    served.stop()
    reload_without_server(page)
    assert line(page) == first + 1
    expect(page.get_by_test_id("canvas")).to_be_visible()
    expect(page.get_by_test_id("lost")).to_be_visible()
    page.keyboard.press("Space")
    reload_without_server(page)
    assert line(page) == first + 2
    page.goto(f"{served.url}/")  # elsewhere nothing can be done without it, and it says so
    expect(page.get_by_text("Kenzet does not answer")).to_be_visible()

    page.go_back()
    expect(page.get_by_test_id("lost")).to_be_visible()
    served.begin()
    expect(page.get_by_test_id("lost")).to_be_hidden(timeout=30_000)
    assert line(page) == first + 2
    page.reload()
    assert line(page) == first + 2
    browser.close()
