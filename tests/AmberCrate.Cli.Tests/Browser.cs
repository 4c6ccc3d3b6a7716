using System.Diagnostics;
using System.Net.WebSockets;
using System.Text.Json.Nodes;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// Debian's Chromium without a window, driven over the protocol of its developer tools (Chrome DevTools Protocol 1.3): pages are
/// opened, keys pressed and files saved as a person would.
/// </summary>
public sealed class Browser : IAsyncDisposable
{
    private const string Program = "/usr/bin/chromium";
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    private readonly Process _process;
    private readonly ClientWebSocket _socket = new();
    private int _last;

    private Browser(Process process) => _process = process;

    /// <summary>What pages have said on their console, faults of the policy and of scripts among them.</summary>
    public List<string> Said { get; } = [];

    /// <summary>Every address that pages have asked for.</summary>
    public List<string> Asked { get; } = [];

    public static async Task<Browser> StartAsync(string folder)
    {
        Assert.SkipUnless(File.Exists(Program), "it takes Debian's Chromium");
        var profile = Path.Combine(folder, "browser");
        var browser = new Browser(Process.Start(new ProcessStartInfo(
            Program,
            [
                "--headless", "--no-sandbox", "--disable-gpu", "--remote-debugging-port=0", $"--user-data-dir={profile}",
                "about:blank",
            ])
        { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false })!);
        browser._process.BeginErrorReadLine();
        browser._process.BeginOutputReadLine();
        var port = await UntilAsync(() =>
            File.Exists(Path.Combine(profile, "DevToolsActivePort"))
                && File.ReadAllLines(Path.Combine(profile, "DevToolsActivePort")) is [var first, ..] ? first : null);
        using var http = new HttpClient();
        var pages = JsonNode.Parse(await http.GetStringAsync($"http://127.0.0.1:{port}/json/list"))!.AsArray();
        var address = pages.First(page => (string?)page!["type"] == "page")!["webSocketDebuggerUrl"]!.ToString();
        await browser._socket.ConnectAsync(new Uri(address), CancellationToken.None);
        foreach (var domain in new[] { "Page", "Runtime", "Log", "Network" }) await browser.SendAsync($"{domain}.enable");
        await browser.SendAsync("Browser.setDownloadBehavior", new() { ["behavior"] = "allow", ["downloadPath"] = folder });
        return browser;
    }

    /// <summary>Opens a page, and waits until a condition in it holds.</summary>
    public async Task OpenAsync(string address, string condition = "document.readyState === 'complete'")
    {
        // Another page first: only the part behind the # may differ.
        await SendAsync("Page.navigate", new() { ["url"] = "about:blank" });
        await WaitAsync("location.href === 'about:blank'");
        await SendAsync("Page.navigate", new() { ["url"] = address });
        await WaitAsync($"location.href !== 'about:blank' && document.readyState === 'complete' && ({condition})");
    }

    /// <summary>What an expression comes to, as text.</summary>
    public async Task<string> TellAsync(string expression)
    {
        var answer = await SendAsync(
            "Runtime.evaluate",
            new()
            {
                ["expression"] = $"Promise.resolve({expression}).then(String)", ["awaitPromise"] = true, ["returnByValue"] = true,
            });
        answer["exceptionDetails"].ShouldBeNull(expression);
        return answer["result"]!["value"]!.ToString();
    }

    /// <summary>Runs a script in the page, whatever the page's own policy is.</summary>
    public async Task DoAsync(string script) =>
        (await SendAsync("Runtime.evaluate", new() { ["expression"] = script }))["exceptionDetails"].ShouldBeNull();

    public async Task WaitAsync(string condition)
    {
        for (var begun = Stopwatch.StartNew(); await TellAsync($"Boolean({condition})") != "true"; await Task.Delay(20))
            begun.Elapsed.ShouldBeLessThan(
                Patience, $"{condition}; the page says: {string.Join('\n', Said)} {await TellAsync("document.body?.innerText")}");
    }

    /// <summary>Types text into what has the focus.</summary>
    public Task TypeAsync(string text) => SendAsync("Input.insertText", new() { ["text"] = text });

    /// <summary>Presses keys, one after the other, by their names: Tab, Space, ArrowDown, Enter.</summary>
    public async Task PressAsync(params string[] keys)
    {
        foreach (var key in keys)
        {
            var (name, code, text) = key switch
            {
                "Space" => (" ", 32, " "),
                "Enter" => ("Enter", 13, "\r"),
                "Tab" => ("Tab", 9, ""),
                "ArrowDown" => ("ArrowDown", 40, ""),
                _ => throw new ArgumentException($"no such key: {key}", nameof(keys)),
            };
            foreach (var type in new[] { "keyDown", "keyUp" })
                await SendAsync("Input.dispatchKeyEvent", new()
                {
                    ["type"] = type, ["key"] = name, ["code"] = key, ["windowsVirtualKeyCode"] = code,
                    ["text"] = type == "keyDown" ? text : "",
                });
        }
    }

    /// <summary>Makes the window so wide, as a phone's.</summary>
    public Task ResizeAsync(int width, int height) => SendAsync("Emulation.setDeviceMetricsOverride", new()
    {
        ["width"] = width, ["height"] = height, ["deviceScaleFactor"] = 1, ["mobile"] = false,
    });

    /// <summary>The look that the system prefers: <c>light</c> or <c>dark</c>.</summary>
    public Task PreferAsync(string look) => SendAsync("Emulation.setEmulatedMedia", new()
    {
        ["features"] = new JsonArray(new JsonObject { ["name"] = "prefers-color-scheme", ["value"] = look }),
    });

    public async ValueTask DisposeAsync()
    {
        _socket.Dispose();
        _process.Kill(entireProcessTree: true);
        await _process.EndInTimeAsync();
        _process.Dispose();
    }

    internal static async Task<T> UntilAsync<T>(Func<T?> look)
        where T : class
    {
        for (var begun = Stopwatch.StartNew(); ; await Task.Delay(20))
        {
            if (look() is { } found) return found;
            begun.Elapsed.ShouldBeLessThan(Patience);
        }
    }

    /// <summary>Sends a command, and takes what happens until its answer is there.</summary>
    private async Task<JsonObject> SendAsync(string method, JsonObject? parameters = null)
    {
        var number = ++_last;
        var message = new JsonObject { ["id"] = number, ["method"] = method, ["params"] = parameters ?? [] };
        await _socket.SendAsync(
            System.Text.Encoding.UTF8.GetBytes(message.ToJsonString()), WebSocketMessageType.Text, true, CancellationToken.None);
        using var patience = new CancellationTokenSource(Patience);
        while (true)
        {
            var received = await ReceiveAsync(patience.Token);
            if ((int?)received["id"] == number)
            {
                received["error"].ShouldBeNull(method);
                return received["result"]!.AsObject();
            }

            Note(received);
        }
    }

    private void Note(JsonObject happened)
    {
        var told = happened["params"];
        switch ((string?)happened["method"])
        {
            case "Runtime.exceptionThrown":
                Said.Add(told!["exceptionDetails"]!.ToJsonString());
                break;
            case "Runtime.consoleAPICalled":
                Said.Add(told!["args"]!.ToJsonString());
                break;
            case "Log.entryAdded":
                Said.Add(told!["entry"]!["text"] + " " + told["entry"]!["url"]);
                break;
            case "Network.requestWillBeSent":
                Asked.Add(told!["request"]!["url"]!.ToString());
                break;
        }
    }

    private async Task<JsonObject> ReceiveAsync(CancellationToken cancel)
    {
        using var content = new MemoryStream();
        var buffer = new byte[1 << 16];
        while (true)
        {
            var part = await _socket.ReceiveAsync(buffer, cancel);
            content.Write(buffer, 0, part.Count);
            if (part.EndOfMessage) return JsonNode.Parse(content.ToArray())!.AsObject();
        }
    }
}
