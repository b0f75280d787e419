// The head of a page of the workshop: its title, what it offers, and the way back to the designs.
import { Button } from "@mantine/core";
import { IconHome } from "@tabler/icons-react";
import type { ReactNode } from "react";
import { Link } from "react-router";

export function PageHead({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <header className="row">
      <h1 style={{ fontSize: 26 }} className="grow">
        {title}
      </h1>
      {children}
      <Button component={Link} to="/" leftSection={<IconHome size={15} />}>
        Designs
      </Button>
    </header>
  );
}
