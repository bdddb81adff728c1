import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { networkQuery } from "../../logic/queries";

export type Network = Schemas["NetworkOut"];
export type Device = Schemas["DeviceOut"];
export type Role = Schemas["Role"];

/** One change after the other; what the network is then is shown at once. */
function useChange<T>(change: (what: T) => Promise<Network>) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: "network" },
    mutationFn: change,
    onSuccess: (network) => queries.setQueryData(networkQuery.queryKey, network),
  });
}

/** Open the network where it is shut, and show a code for one more device. */
export const useLetIn = () =>
  useChange(async (role: Role) => {
    await body(api.PUT("/api/network", { body: { open: true } }));
    return body(api.POST("/api/network/code", { body: { role } }));
  });

export const useShut = () =>
  useChange(() => body(api.PUT("/api/network", { body: { open: false } })));

export const useDropCode = () => useChange(() => body(api.DELETE("/api/network/code")));

export const useChangeDevice = () =>
  useChange(({ id, name, role }: Pick<Device, "id" | "name" | "role">) =>
    body(
      api.PUT("/api/network/devices/{device_id}", {
        params: { path: { device_id: id } },
        body: { name, role },
      }),
    ),
  );

export const useLetGo = () =>
  useChange((id: string) =>
    body(api.DELETE("/api/network/devices/{device_id}", { params: { path: { device_id: id } } })),
  );
