import { afterEach, describe, expect, it, vi } from "vitest";
import { freshKey } from "./freshKey";

afterEach(() => vi.unstubAllGlobals());

describe("freshKey", () => {
  it("is another one each time", () => {
    expect(freshKey()).not.toBe(freshKey());
  });

  it("works where a page of plain http has no randomUUID", () => {
    const bytes = crypto.getRandomValues.bind(crypto);
    vi.stubGlobal("crypto", { getRandomValues: bytes });
    expect(freshKey()).toMatch(/^[0-9a-f]{32}$/);
    expect(freshKey()).not.toBe(freshKey());
  });
});
