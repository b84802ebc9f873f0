package ohmoscope.core.locate.capture;

/**
 * What a row or a column of the picture shares is the camera's, not the board's: the weighted mean of each row, then of
 * each column, is taken out of every component.
 */
public final class Stripes {
    private final int k;
    private final int[] rowStart;
    private final int[] column;
    private final float[] weight;
    private final float[] rowWeight;
    private final float[] columnWeight;

    /** @param weight {@code [component · pixels + pixel]}, kept */
    public Stripes(Pixels pixels, float[] weight, int k) {
        this.k = k;
        this.weight = weight;
        rowStart = pixels.rowStarts();
        column = pixels.column();
        rowWeight = new float[pixels.rows() * k];
        columnWeight = new float[pixels.columns() * k];
        int n = pixels.count();
        for (int j = 0; j < k; j++) {
            for (int p = 0; p < n; p++) {
                rowWeight[j * pixels.rows() + pixels.row()[p]] += weight[j * n + p];
                columnWeight[j * pixels.columns() + column[p]] += weight[j * n + p];
            }
        }
    }

    /** Sum of a row's weights in one component. */
    public float rowWeight(int component, int row) {
        return rowWeight[component * (rowStart.length - 1) + row];
    }

    /** The same of a column. */
    public float columnWeight(int component, int column) {
        return columnWeight[component * (columnWeight.length / k) + column];
    }

    /** In place. */
    public void takeOut(float[] values) {
        int n = column.length;
        int columns = columnWeight.length / k;
        float[] mean = new float[columns];
        for (int j = 0; j < k; j++) {
            takeOutRows(values, j, n);
            java.util.Arrays.fill(mean, 0);
            for (int p = 0; p < n; p++) {
                mean[column[p]] += weight[j * n + p] * values[j * n + p];
            }
            for (int c = 0; c < columns; c++) {
                float sum = columnWeight[j * columns + c];
                mean[c] = sum > 0 ? mean[c] / sum : 0;
            }
            for (int p = 0; p < n; p++) {
                values[j * n + p] -= mean[column[p]];
            }
        }
    }

    private void takeOutRows(float[] values, int j, int n) {
        int rows = rowStart.length - 1;
        for (int r = 0; r < rows; r++) {
            float sum = rowWeight[j * rows + r];
            if (sum > 0) {
                int from = j * n + rowStart[r];
                int count = rowStart[r + 1] - rowStart[r];
                float mean = product(values, from, count) / sum;
                for (int i = from; i < from + count; i++) {
                    values[i] -= mean;
                }
            }
        }
    }

    private float product(float[] values, int from, int count) {
        float s0 = 0;
        float s1 = 0;
        float s2 = 0;
        float s3 = 0;
        int i = from;
        for (; i + 3 < from + count; i += 4) {
            s0 += weight[i] * values[i];
            s1 += weight[i + 1] * values[i + 1];
            s2 += weight[i + 2] * values[i + 2];
            s3 += weight[i + 3] * values[i + 3];
        }
        for (; i < from + count; i++) {
            s0 += weight[i] * values[i];
        }
        return s0 + s1 + s2 + s3;
    }
}
