import type { ReactNode } from "react";
import { Button } from "../ui/Button";
import { Caught } from "./Caught";
import { Message } from "./Message";

/** Stands in for the page when all of it fails, and says what is kept and what to do. */
export function Trouble({ children }: { children: ReactNode }) {
  return (
    <Caught
      instead={(wrong) => (
        <Message title="Something went wrong">
          <p>A part of it failed: {wrong}.</p>
          <p>
            What you changed is kept: it was sent to the server, or it waits in this browser and is offered when the
            project is opened again.
          </p>
          <div>
            <Button $main onPress={() => location.reload()}>
              Load the page again
            </Button>
          </div>
          <a href="/?list">Go to the projects</a>
        </Message>
      )}
    >
      {children}
    </Caught>
  );
}
