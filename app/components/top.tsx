import { LogOut, SunMoon } from "lucide";
import { Form } from "react-router";
import { Button } from "./controls";
import { Icon } from "./icon";

/** What stands at the right end of every header: the look and the way out. */
export function TopButtons() {
  return (
    <>
      <LookSwitch />
      <Form method="post" action="/sign-out">
        <Button type="submit" look="quiet" aria-label="Sign out" className="w-11 px-0!">
          <Icon of={LogOut} size={20} />
        </Button>
      </Form>
    </>
  );
}

/** Changes between bay light and cab dark and remembers it on this device. */
function LookSwitch() {
  return (
    <Button
      look="quiet"
      aria-label="Change between bay light and cab dark"
      className="w-11 px-0!"
      onClick={() => {
        const root = document.documentElement;
        const dark = root.dataset.look
          ? root.dataset.look === "dark"
          : window.matchMedia("(prefers-color-scheme: dark)").matches;
        root.dataset.look = dark ? "light" : "dark";
        // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is missing in part of the browsers
        document.cookie = `iteron_look=${root.dataset.look}; path=/; max-age=31536000; samesite=lax`;
      }}
    >
      <Icon of={SunMoon} size={22} />
    </Button>
  );
}
