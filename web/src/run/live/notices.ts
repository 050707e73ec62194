/** Whether this browser shows notices of this address; null where it knows none at all, as most phones over plain http. */
export const noticesAllowed = (): NotificationPermission | null => (typeof Notification === 'undefined' ? null : Notification.permission);

/** Asks for leave to show notices, where it was neither given nor refused. */
export async function askForNotices(): Promise<NotificationPermission | null> {
  if (noticesAllowed() !== 'default') return noticesAllowed();
  return Notification.requestPermission();
}

/** Shows a notice outside the page, in the place of the last one about the same. */
export function notice(about: string, title: string, body: string): void {
  if (noticesAllowed() !== 'granted') return;
  try {
    const shown = new Notification(title, { body, tag: about });
    // Pressed, it brings the page to the front.
    shown.onclick = () => {
      window.focus();
      shown.close();
    };
  } catch {
    // Some browsers show them from a worker alone; the page says it all the same.
  }
}
