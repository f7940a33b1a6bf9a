# A robot that speaks the protocol of Perceptum over TCP. Fill in the two functions; then
#   python3 robot.py 4190      and      perceptum live PROJECT --link tcp://ROBOT:4190
import json, select, socket, sys, time

def read_belly(): return [512, 500, 480]  # the raw values of one reading, in wire order
def set_wheels(left, right): print("wheels", left, right, flush=True)  # shares of top speed, -1 to 1

line = socket.create_server(("", int(sys.argv[1]))).accept()[0]
began = heard = time.monotonic()
rest = b""
while True:
    reading = {"s": "belly", "t": round(1000 * (time.monotonic() - began)), "v": read_belly()}
    try:
        line.sendall(json.dumps(reading).encode() + b"\n")
        part = line.recv(4096) if select.select([line], [], [], 0.02)[0] else None
    except OSError:
        part = b""
    if part == b"": break  # the line is gone
    if part is not None:
        heard = time.monotonic()
        *lines, rest = (rest + part).split(b"\n")
        for command in map(json.loads, lines):
            if "wheels" in command: set_wheels(*command["wheels"])
            if "stop" in command: set_wheels(0, 0)
    if time.monotonic() - heard > 1.5: set_wheels(0, 0)
set_wheels(0, 0)
