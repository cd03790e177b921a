import "fake-indexeddb/auto";
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// Waits are for a state, however busy the machine is.
configure({ asyncUtilTimeout: 30_000 });
afterEach(cleanup);
