// Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
using System;
using System.Globalization;
using System.IO;

sealed class Recorder : IDisposable {
    readonly StreamWriter file;
    readonly bool json;

    public Recorder(string path) {
        file = new StreamWriter(path, false, new System.Text.UTF8Encoding(false), 1 << 16) { NewLine = "\n" };
        json = path.EndsWith(".jsonl");
        AppDomain.CurrentDomain.ProcessExit += (sender, arguments) => Dispose();  // what is still in memory
        if (!json) file.WriteLine("tick,actor,x,y,facing,animation,frame");
    }

    public void Row(long tick, string actor, double x, double y, bool right, string animation, int frame) {
        var facing = right ? "right" : "left";
        file.WriteLine(json ? "{\"tick\":" + tick + ",\"actor\":\"" + actor + "\",\"x\":" + Place(x) + ",\"y\":" + Place(y) + ",\"facing\":\"" + facing + "\",\"animation\":\"" + animation + "\",\"frame\":" + frame + "}"
                            : tick + "," + actor + "," + Place(x) + "," + Place(y) + "," + facing + "," + animation + "," + frame);
    }

    static string Place(double v) {  // to 1/10000 px: whole numbers are written faster than fractions, and without a comma anywhere
        var whole = (long)Math.Round(Math.Abs(v) * 1e4);
        return (v < 0 ? "-" : "") + whole / 10000 + "." + (10000 + whole % 10000).ToString().Substring(1);
    }

    public void Dispose() { file.Dispose(); }
}

// A walk, in place of a game: argument 1 is the file, 2 the ground's y.
static class Walk {
    static void Main(string[] arguments) {
        var ground = double.Parse(arguments[1], CultureInfo.InvariantCulture);
        using (var recorder = new Recorder(arguments[0]))
            for (long tick = 0; tick < 200; tick++)
                recorder.Row(tick, "hand", 64.0 + 1.5 * tick, ground, true, "walk", (int)(tick / 6 % 4));
    }
}
