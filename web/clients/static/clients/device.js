// The level reference page: the demo's meter fills the same field that a person fills by hand.

const form = document.getElementById("reference");

document.getElementById("read-meter")?.addEventListener("click", async () => {
  const distance = form.elements.meter_distance_cm.value || "30";
  const query = new URLSearchParams({ dbfs: form.dataset.dbfs, distance_cm: distance });
  const answer = await fetch(`${form.dataset.meter}?${query}`);
  if (answer.ok) form.elements.meter_db.value = (await answer.json()).db;
});
