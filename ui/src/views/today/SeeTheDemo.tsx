import { useMutation, useQuery } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { aboutQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";

const LOOK_AGAIN_MS = 400;
const MOST_LOOKS = 150;

/** Start it, and wait until it answers: some seconds. */
async function openDemo(): Promise<string> {
  for (let looks = 0; looks < MOST_LOOKS; looks += 1) {
    const demo = await body(api.POST("/api/demo/beside"));
    if (demo.answers) return demo.address;
    await new Promise((done) => setTimeout(done, LOOK_AGAIN_MS));
  }
  throw new Error("The demo does not start. Try again, or start it by itself: make demo");
}

/** The way into the demo, which runs beside one's own kitchen and leaves it as it is. */
export function SeeTheDemo() {
  const about = useQuery(aboutQuery);
  const open = useMutation({
    mutationFn: openDemo,
    onSuccess: (address) => location.assign(address),
  });
  if (!about.data || about.data.demo) return null;
  return (
    <>
      <button
        type="button"
        className="press"
        disabled={open.isPending || open.isSuccess}
        onClick={() => open.mutate()}
      >
        {open.isPending || open.isSuccess ? "The demo is starting…" : "Look around in the demo"}
      </button>
      <Notice problem={open.error} />
    </>
  );
}
