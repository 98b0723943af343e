-- Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
local Recorder = {}
Recorder.__index = Recorder

function Recorder.open(path)
    local file = assert(io.open(path, "w"))
    file:setvbuf("full", 65536) -- written in blocks; Lua writes the last one when it closes
    local json = path:match("%.jsonl$") ~= nil
    if not json then file:write("tick,actor,x,y,facing,animation,frame\n") end
    return setmetatable({ file = file, json = json }, Recorder)
end

function Recorder:row(tick, actor, x, y, right, animation, frame)
    local facing = right and "right" or "left"
    if self.json then
        self.file:write('{"tick":', tick, ',"actor":"', actor, '","x":', x, ',"y":', y, ',"facing":"', facing,
            '","animation":"', animation, '","frame":', frame, "}\n")
    else
        self.file:write(tick, ",", actor, ",", x, ",", y, ",", facing, ",", animation, ",", frame, "\n")
    end
end

function Recorder:close() self.file:close() end

-- A walk, in place of a game: argument 1 is the file, 2 the ground's y.
local recorder = Recorder.open(arg[1])
for tick = 0, 199 do
    recorder:row(tick, "hand", 64 + 1.5 * tick, tonumber(arg[2]), true, "walk", tick // 6 % 4)
end
recorder:close()
