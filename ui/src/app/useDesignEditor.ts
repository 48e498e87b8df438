import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";
import { DesignEditor } from "../api/designWire";
import { useDesign } from "../api/queries";

/** The editor of a design. It takes up what waited when the page was closed; leaving with edits on their way asks. */
export function useDesignEditor(designId: string): DesignEditor {
  const cache = useQueryClient();
  const editor = useMemo(() => new DesignEditor(designId, cache), [designId, cache]);
  const known = useDesign(designId).data !== undefined;
  const begun = useRef<DesignEditor>(undefined);
  useEffect(() => {
    if (!known || begun.current === editor) return;
    begun.current = editor;
    editor.takeUp();
  }, [editor, known]);
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
