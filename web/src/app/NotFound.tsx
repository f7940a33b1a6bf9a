import { Link } from "react-router";
import { Message } from "./Message";

export function NotFound() {
  return (
    <Message title="There is nothing at this address">
      <Link to="/?list">Go to the projects</Link>
    </Message>
  );
}
