/*
 * A robot that speaks the protocol of Perceptum over its serial line. Fill in the five functions.
 */
#include <stdio.h>
#include <string.h>

extern unsigned long clock_ms(void);                /* since the start */
extern void read_belly(int raw[3]);                 /* the raw values of one reading, in wire order */
extern void set_wheels(double left, double right);  /* shares of top speed, -1 to 1 */
extern int serial_read(void);                       /* the next byte, -1 while there is none */
extern void serial_write(const char *text);

/* To be called again and again, at least every 20 ms. */
void robot_loop(void) {
  static char line[256];
  static unsigned length;
  static unsigned long heard_ms, said_ms;
  int byte;
  while ((byte = serial_read()) >= 0) {
    if (byte != '\n') {
      if (length < sizeof line - 1) line[length++] = (char)byte;
      continue;
    }
    double left, right;
    line[length] = '\0';
    length = 0;
    heard_ms = clock_ms();
    if (sscanf(line, "{\"wheels\":[%lf,%lf]}", &left, &right) == 2) set_wheels(left, right);
    if (strncmp(line, "{\"stop\"", 7) == 0) set_wheels(0, 0);
  }
  if (clock_ms() - heard_ms > 1500) set_wheels(0, 0); /* nobody is there */
  if (clock_ms() - said_ms >= 20) {
    char text[80];
    int raw[3];
    said_ms = clock_ms();
    read_belly(raw);
    snprintf(text, sizeof text, "{\"s\":\"belly\",\"t\":%lu,\"v\":[%d,%d,%d]}\n", said_ms, raw[0], raw[1], raw[2]);
    serial_write(text);
  }
}
