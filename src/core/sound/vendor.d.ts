declare module 'ml-fft' {
  export const FFT: { init(size: number): void; fft(re: number[], im: number[]): void };
}
