import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { importDesign } from "./import-design";

const holdsFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;

/** A design's file that is dropped anywhere on the window is kept and opened. */
export function DropDesign() {
  const [over, setOver] = useState(false);
  const queries = useQueryClient();
  const navigate = useNavigate();
  useEffect(() => {
    const above = (event: DragEvent) => {
      if (event.defaultPrevented || !holdsFile(event)) return;
      event.preventDefault();
      setOver(true);
    };
    // Only where the pointer leaves the window: what is within it is left all the time.
    const left = (event: DragEvent) => {
      if (!event.relatedTarget) setOver(false);
    };
    const dropped = (event: DragEvent) => {
      setOver(false);
      if (event.defaultPrevented || !holdsFile(event)) return;
      // Else the browser would leave the page for the file.
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (file) void importDesign(file, queries, navigate);
    };
    window.addEventListener("dragover", above);
    window.addEventListener("dragleave", left);
    window.addEventListener("drop", dropped);
    return () => {
      window.removeEventListener("dragover", above);
      window.removeEventListener("dragleave", left);
      window.removeEventListener("drop", dropped);
    };
  }, [queries, navigate]);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-0 z-50 grid place-items-center bg-paper/80 outline-2 outline-river outline-dashed -outline-offset-8">
      <p className="font-head text-2xl">Drop a design's file to open it</p>
    </div>
  );
}
