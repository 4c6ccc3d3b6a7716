namespace AmberCrate.Engine.Storage;

/// <summary>Changes that are made together or not at all.</summary>
public sealed class Transaction : IDisposable
{
    private readonly Database _database;
    private bool _isOver;

    internal Transaction(Database database) => _database = database;

    /// <summary>Makes the changes last.</summary>
    /// <exception cref="DatabaseException">It cannot be done; the changes are rolled back.</exception>
    public void Commit()
    {
        _database.Run("COMMIT");
        _isOver = true;
        _database.NoteForReaders();
    }

    /// <summary>Takes back what has not been committed.</summary>
    public void Dispose()
    {
        if (!_isOver && !_database.IsIdle) _database.Run("ROLLBACK");
        _isOver = true;
    }
}
