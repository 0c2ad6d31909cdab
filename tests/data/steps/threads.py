import threading

aboard = []
lock = threading.Lock()

def load(lane, cars):
    count = 0
    for car in range(cars):
        with lock:
            aboard.append(lane)
        count = count + 1
    return count

port = threading.Thread(target=load, args=("port", 2), name="port")
port.start(), port.join()
star = threading.Thread(target=load, args=("star", 1), name="star")
star.start(), star.join()
print(len(aboard))
