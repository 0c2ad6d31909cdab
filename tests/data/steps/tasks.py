import asyncio

log = []

async def sail(name, legs):
    done = 0
    for leg in range(legs):
        await asyncio.sleep(0)
        done = done + 1
    log.append(name)
    return done

async def main():
    first = asyncio.create_task(sail("Kea", 2), name="kea")
    second = asyncio.create_task(sail("Morgan", 1), name="morgan")
    total = await first + await second
    total = total + await sail("Elm", 1)
    return total

result = asyncio.run(main())
print(result, log)
