import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, author, setAuthor } from "../api/client";
import { sessionQuery } from "../api/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

/** The name that changes made here have: the token's, which is fixed, or one that is typed. */
export function YourName() {
  const { data: session } = useQuery(sessionQuery);
  const [name, setName] = useState(author);
  if (!session) return null;
  return (
    <div className="space-y-2">
      {session.name ? (
        <p className="text-soft">
          You are signed in as <bdi className="font-semibold text-ink">{session.name}</bdi>
          {session.role === "read" ? ", who reads and changes nothing." : ". Your changes have this name."}
        </p>
      ) : (
        <Field
          label="Your name, shown with your changes"
          value={name}
          placeholder="none yet"
          most={80}
          onChange={(to) => {
            setName(to);
            setAuthor(to);
          }}
        />
      )}
      {session.signed_in ? (
        <Button onClick={() => void api.DELETE("/api/session").then(() => window.location.replace("/enter"))}>
          Sign out
        </Button>
      ) : null}
    </div>
  );
}
