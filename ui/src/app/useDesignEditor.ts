import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { DesignEditor } from "../api/editor";

/** The editor of a design. Leaving the page while edits are on their way asks first. */
export function useDesignEditor(designId: string): DesignEditor {
  const cache = useQueryClient();
  const editor = useMemo(() => new DesignEditor(designId, cache), [designId, cache]);
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (editor.pending) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      editor.dispose();
    };
  }, [editor]);
  return editor;
}
