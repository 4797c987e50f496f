"""Records leave and come back in the lead's browser, with how far it is."""

import zipfile

from tests.browser.conftest import sign_in
from tests.conftest import NOW, activate_program, enrol
from web.clients.models import Client
from web.clients.usecases.enrol import erase_client
from web.clinic.models import User


def test_all_records_out_and_in_again(browsers, site, clinic, clinician, person, version, tmp_path):
    second = enrol(clinic, clinician, name="Osric Fendt")
    activate_program(second, clinician)
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    page = browsers()
    sign_in(page, site, lead)
    page.goto(f"{site.url}/clinic/")
    page.click("text=Records in and out")
    with page.expect_download() as begun:
        page.click("#save-all")
    saved = tmp_path / "clinic.zip"
    begun.value.save_as(saved)
    page.wait_for_selector("text=2 of 2 records")
    with zipfile.ZipFile(saved) as archive:
        assert len([name for name in archive.namelist() if name.startswith("records/")]) == 2
    for one in (person, second):
        erase_client(one, by=clinician, now=NOW)
    page.set_input_files("input[type=file]", saved)
    page.click("text=Take record in")
    page.wait_for_selector("text=Taken in: 2 records")
    assert Client.objects.for_clinic(clinic).count() == 2
    page.click(f"table >> text={person.name}")
    page.wait_for_selector(f"h1:has-text('{person.name}')")
    assert not page.errors
