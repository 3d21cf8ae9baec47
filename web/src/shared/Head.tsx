import { Table } from "@chakra-ui/react";

/** The line of names above the columns of a table; with widths, if they are to stand still. */
export function Head(props: {
  columns: readonly (string | readonly [name: string, width: string])[];
  ground?: boolean;
}) {
  return (
    <Table.Header>
      <Table.Row bg={props.ground ? "ground" : "transparent"}>
        {props.columns.map((column) => {
          const [name, width] = typeof column === "string" ? [column] : column;
          return (
            <Table.ColumnHeader key={name} w={width} color="muted" fontWeight="400">
              {name}
            </Table.ColumnHeader>
          );
        })}
      </Table.Row>
    </Table.Header>
  );
}
