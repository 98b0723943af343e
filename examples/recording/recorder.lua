-- Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
local Recorder = {}
Recorder.__index = Recorder

function Recorder.open(path)
    local file = assert(io.open(path, "w"))
    file:setvbuf("full", 65536) -- written in blocks; Lua writes the last one when it closes
    local json = path:match("%.jsonl$") ~= nil
    local between = { ",", ",", "e-4,", "e-4,", ",", ",", "\n", before = "" }
    if json then
        between = { ',"actor":"', '","x":', 'e-4,"y":', 'e-4,"facing":"', '","animation":"', '","frame":', "}\n", before = '{"tick":' }
    else
        file:write("tick,actor,x,y,facing,animation,frame\n")
    end
    return setmetatable({ file = file, between = between }, Recorder)
end

function Recorder:row(tick, actor, x, y, right, animation, frame) -- places in 1/10000 px: whole numbers are written faster
    local b, floor, facing = self.between, math.floor, right and "right" or "left"
    self.file:write(b.before, tick, b[1], actor, b[2], floor(x * 1e4 + 0.5), b[3], floor(y * 1e4 + 0.5), b[4],
        facing, b[5], animation, b[6], frame, b[7])
end

function Recorder:close() self.file:close() end

-- A walk, in place of a game: argument 1 is the file, 2 the ground's y.
local recorder = Recorder.open(arg[1])
for tick = 0, 199 do
    recorder:row(tick, "hand", 64 + 1.5 * tick, tonumber(arg[2]), true, "walk", tick // 6 % 4)
end
recorder:close()
