/** The same as visibleTo for rows under an alias; takes the station's id as a parameter. */
export function visibleSql(alias: string): string {
  return `(${alias}.scope = 'group' or ${alias}.station_id = ?)`;
}
