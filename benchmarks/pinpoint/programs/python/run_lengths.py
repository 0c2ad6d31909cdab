def pack(signal):
    packed = ""
    count = 1
    for place in range(1, len(signal)):
        if signal[place] == signal[place - 1]:
            count += 1
        else:
            packed += signal[place - 1] + str(count)
            count = 1
    if signal:
        packed += signal[-1] + str(count)
    return packed


def unpack(packed):
    signal = ""
    letter = ""
    number = ""
    for sign in packed:
        if sign.isdigit():
            number += sign
        else:
            if letter:
                signal += letter * int(number)
            letter = sign
            number = ""
    if letter:
        signal += letter * int(number)
    return signal


def there_and_back(signal):
    packed = pack(signal)
    return packed, unpack(packed), len(signal) - len(packed)
