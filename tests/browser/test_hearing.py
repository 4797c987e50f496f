"""A clinician judges by ear beside the contour; the client takes the yes back and the sound is gone."""

from lab.demo.load import PASSWORD, load_demo
from lab.demo.takes import Takes
from tests.browser.conftest import enter, sign_in
from tests.conftest import NOW, PIN
from web.clients.models import Client
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.clinic.models import User
from web.practice.models import HeardSound

PLAYED = "() => Number(document.getElementById('place').value) > 0.2"


def test_a_try_is_played_beside_its_contour_until_the_client_says_no(browsers, site):
    load_demo(clock.now(), Takes.shipped(), only=["Maren Tidewell"])
    person = Client.objects.get()
    clinic = browsers()
    sign_in(clinic, site, User.objects.get(pk=person.clinician_id), password=PASSWORD)
    clinic.goto(f"{site.url}/clients/{person.pk}/heard/")
    assert clinic.locator("table a").count() == HeardSound.objects.count() > 2
    clinic.click("table a >> nth=0")
    clinic.click("#hear")
    clinic.wait_for_function(PLAYED)
    assert clinic.get_attribute(".playhead", "visibility") == "visible"
    assert clinic.get_attribute(".playhead", "transform") != "translate(0 0)"

    access = make_link(person, by=person.clinician, now=NOW, pin=PIN)[0]
    client = browsers()
    enter(client, site, access)
    client.click("text=Who hears my voice?")
    client.click("button:has-text('No longer')")
    client.wait_for_selector("text=Nobody. No sound is kept.")
    assert not HeardSound.objects.exists()
    where = clinic.url
    clinic.click("text=Maren Tidewell")
    clinic.goto(where)
    assert clinic.locator("#hear").count() == 0
    assert not client.errors + clinic.errors
