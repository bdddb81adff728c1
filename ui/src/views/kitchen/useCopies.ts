import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { askAnew, KEYS } from "../../logic/queries";

export function useMakeCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/copies")),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.copies }),
  });
}

/** Take a copy from another disk to those that lie here. */
export function useBringCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (file: File) =>
      body(
        api.POST("/api/copies/brought", {
          // The bytes of the file as they are: nothing is made of them on the way.
          body: file as unknown as string,
          bodySerializer: (bytes) => bytes as unknown as BodyInit,
          headers: { "content-type": "application/octet-stream" },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.copies }),
  });
}

/** Throw a copy away for good. */
export function useThrowCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      body(api.DELETE("/api/copies/{name}", { params: { path: { name } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.copies }),
  });
}

/** Put a copy in the place of all that there is. */
export function usePutBack() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      body(api.POST("/api/copies/{name}/restore", { params: { path: { name } } })),
    onSuccess: () => askAnew(queries),
  });
}
