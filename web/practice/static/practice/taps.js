// A hand that trembles taps twice at one place, whatever has appeared there meanwhile: the second is not meant.

const MOMENT_MS = 350;
const NEAR_PX = 40;

let last = { at: -Infinity, x: 0, y: 0 };

export function unrepeated(button, act) {
  button?.addEventListener("click", ({ timeStamp, clientX, clientY }) => {
    const near = Math.hypot(clientX - last.x, clientY - last.y) < NEAR_PX;
    const again = near && timeStamp - last.at < MOMENT_MS;
    last = { at: timeStamp, x: clientX, y: clientY };
    if (!again) act();
  });
}
